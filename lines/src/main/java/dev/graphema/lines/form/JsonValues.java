package dev.graphema.lines.form;

import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonToken;
import dev.graphema.text.Decimals;
import java.io.IOException;
import java.math.BigDecimal;
import java.time.DateTimeException;
import java.time.Duration;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Consumer;

/** Reads and skips the values of lines in JSON. For one thread. */
public final class JsonValues {
    /** The longest logged number has a sign, a point and some zeros in addition to its digits. */
    static final int MOST_OF_A_NUMBER = Decimals.MOST_DIGITS + 100;

    /** A decimal number with this number of characters has at most 15 digits, which a double returns unchanged. */
    public static final int EXACT_LENGTH = 16;

    private static final double LEAST_EXACT = 1e-6;

    private final Consumer<LineDamage> damaged;

    /** What was read of a value before the damage in it; null for nothing. */
    private Object begun;

    /** @param damaged receives what is wrong with a value */
    JsonValues(Consumer<LineDamage> damaged) {
        this.damaged = damaged;
    }

    /**
     * Returns the number that a text of up to {@value #EXACT_LENGTH} characters means; null if it is so small or large that
     * it may be rounded.
     */
    public static Double exactDouble(double parsed) {
        return Math.abs(parsed) >= LEAST_EXACT && Double.isFinite(parsed) ? parsed : null;
    }

    /** Starts a member of a line. */
    void begin() {
        begun = null;
    }

    /** Returns what was read of the last value before the damage in it; null for nothing. */
    Object begun() {
        return begun;
    }

    /** Returns a duration that was written as one; other texts unchanged. */
    public static Object meaning(String value) {
        if (value.startsWith("PT")) {
            try {
                Duration duration = Duration.parse(value);
                return duration.toString().equals(value) ? duration : value;
            } catch (DateTimeException e) {
                return value;
            }
        }
        return value;
    }

    /** Returns the number that is the current token, without rounding. */
    static Object number(JsonParser json) throws IOException {
        if (json.isNaN()) {
            return json.getText();
        }
        return switch (json.getNumberType()) {
            case INT, LONG -> json.getLongValue();
            case BIG_INTEGER -> json.getBigIntegerValue();
            default -> {
                Double usual = json.getTextLength() <= EXACT_LENGTH ? exactDouble(json.getDoubleValue()) : null;
                if (usual != null) {
                    yield usual;
                }
                BigDecimal exact = json.getDecimalValue();
                double nearest = exact.doubleValue();
                yield Double.isFinite(nearest) && new BigDecimal(Double.toString(nearest)).compareTo(exact) == 0
                        ? (Object) nearest
                        : exact;
            }
        };
    }

    /** Returns the value that begins with the current token. */
    Object value(JsonParser json) throws IOException {
        return switch (json.currentToken()) {
            case START_OBJECT -> group(json);
            case START_ARRAY -> list(json);
            case VALUE_STRING -> meaning(json.getText());
            case VALUE_TRUE, VALUE_FALSE -> json.getBooleanValue();
            case VALUE_NUMBER_INT, VALUE_NUMBER_FLOAT -> number(json);
            default -> null;
        };
    }

    private Map<String, Object> group(JsonParser json) throws IOException {
        Map<String, Object> group = new LinkedHashMap<>();
        String name = null;
        try {
            while (json.nextToken() != JsonToken.END_OBJECT) {
                name = json.currentName();
                json.nextToken();
                Object value = value(json);
                if (group.putIfAbsent(name, value) != null) {
                    damaged.accept(LineDamage.REPEATED_NAME);
                    group.put(name, EventAssembler.both(group.get(name), value));
                }
                name = null;
            }
            return group;
        } catch (IOException e) {
            if (name != null && begun != null) {
                group.put(name, begun);
            }
            begun = group;
            throw e;
        }
    }

    private List<Object> list(JsonParser json) throws IOException {
        List<Object> items = new ArrayList<>();
        try {
            while (json.nextToken() != JsonToken.END_ARRAY) {
                begun = null;
                items.add(value(json));
            }
            return items;
        } catch (IOException e) {
            if (begun != null) {
                items.add(begun);
            }
            begun = items;
            throw e;
        }
    }
}
