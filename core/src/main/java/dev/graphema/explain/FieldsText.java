package dev.graphema.explain;

import dev.graphema.event.FieldWriter;
import dev.graphema.text.Decimals;
import dev.graphema.text.Durations;
import java.math.BigDecimal;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Consumer;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** Fields as text: {@code lane=A3 lock_wait_ms=250 remark="two words"}. */
public final class FieldsText {
    private static final Pattern PAIR = Pattern.compile("\\s*([^\\s=\"]+)=(?:\"((?:[^\"\\\\]|\\\\.)*)\"|(\\S*))");

    private FieldsText() {}

    /**
     * Parses pairs separated by spaces. Numbers, durations, {@code true} and {@code false} have their types; a quoted
     * value is a text.
     *
     * @throws IllegalArgumentException if a part is not a pair
     */
    public static Consumer<FieldWriter> parse(String text) {
        List<Consumer<FieldWriter>> fields = new ArrayList<>();
        Matcher pair = PAIR.matcher(text);
        int at = 0;
        while (pair.find(at) && pair.start() == at) {
            String name = pair.group(1);
            Object value = pair.group(2) != null ? pair.group(2).replaceAll("\\\\(.)", "$1") : typed(pair.group(3));
            fields.add(writer -> writer.put(name, value));
            at = pair.end();
        }
        if (!text.substring(at).isBlank()) {
            throw new IllegalArgumentException(
                    "\"" + text.substring(at).strip() + "\" is not a valid field: expected one such as lane=A3");
        }
        return writer -> fields.forEach(field -> field.accept(writer));
    }

    /**
     * Parses one pair as passed by a shell, without quotes: the value is the text after the first equals sign.
     *
     * @throws IllegalArgumentException if it is not a pair
     */
    public static Consumer<FieldWriter> pair(String text) {
        int equals = text.indexOf('=');
        if (equals <= 0) {
            throw new IllegalArgumentException("\"" + text + "\" is not a valid field: expected one such as lane=A3");
        }
        String name = text.substring(0, equals);
        Object value = typed(text.substring(equals + 1));
        return writer -> writer.put(name, value);
    }

    private static Object typed(String value) {
        if (value.equals("true") || value.equals("false")) {
            return Boolean.valueOf(value);
        }
        BigDecimal number = Decimals.parse(value);
        if (number != null) {
            return number;
        }
        Duration duration = Durations.parse(value);
        return duration == null ? value : duration;
    }
}
