package dev.graphema.format;

import dev.graphema.event.FieldVisitor;
import dev.graphema.event.Fields;
import dev.graphema.text.Times;
import dev.graphema.text.Utf8Buffer;
import java.math.BigDecimal;
import java.time.Duration;
import java.time.Instant;
import java.util.Set;

/**
 * Writes fields as a JSON object: groups as objects, lists as arrays, times in RFC 3339, durations in ISO 8601 or as
 * numbers. For one thread.
 */
final class JsonFields implements FieldVisitor {
    private final Rfc3339 times = new Rfc3339();
    private final RecurringTexts firstNames = new RecurringTexts("", ":");
    private final RecurringTexts names = new RecurringTexts(",", ":");
    private Utf8Buffer to;
    private boolean first;

    /** See {@link JsonValue#places}. */
    private int durationPlaces = JsonValue.AS_TEXT;

    /** Defines how durations are written from now on; see {@link JsonValue#places}. */
    JsonFields durations(int places) {
        durationPlaces = places;
        return this;
    }

    void write(Fields fields, Utf8Buffer to) {
        this.to = to;
        open('{');
        fields.visit(this);
        close('}');
    }

    /** Writes the value of one field, or nothing if it is missing. */
    boolean writeOne(Fields fields, String path, Utf8Buffer to) {
        this.to = to;
        first = true;
        return fields.visit(path, this);
    }

    /**
     * Writes the fields into an open object, except those with the given names; a name that is already used there gets
     * a prefix.
     *
     * @param isFirst whether the object is still empty
     * @return whether it is still empty
     */
    boolean writeInto(Fields fields, boolean isFirst, Set<String> except, Set<String> taken, Utf8Buffer to) {
        this.to = to;
        first = isFirst;
        for (String name : fields.names()) {
            if (!except.contains(name)) {
                name(taken.contains(name) ? "fields." + name : name);
                first = true;
                fields.visit(name, this);
                first = false;
            }
        }
        return first;
    }

    @Override
    public void text(String name, String value) {
        name(name);
        JsonText.string(value, to);
    }

    @Override
    public void integer(String name, long value) {
        name(name);
        to.number(value);
    }

    @Override
    public void real(String name, double value) {
        name(name);
        JsonText.real(value, to);
    }

    @Override
    public void decimal(String name, BigDecimal value) {
        name(name);
        to.ascii(value.toString());
    }

    @Override
    public void bool(String name, boolean value) {
        name(name);
        to.ascii(value ? "true" : "false");
    }

    @Override
    public void time(String name, Instant value) {
        name(name);
        to.ascii('"');
        times.write(Times.epochNanos(value), to);
        to.ascii('"');
    }

    @Override
    public void duration(String name, Duration value) {
        name(name);
        if (durationPlaces == JsonValue.AS_TEXT) {
            to.ascii('"').ascii(value.toString()).ascii('"');
            return;
        }
        BigDecimal nanos =
                BigDecimal.valueOf(value.getSeconds()).movePointRight(9).add(BigDecimal.valueOf(value.getNano()));
        BigDecimal number = nanos.movePointLeft(durationPlaces).stripTrailingZeros();
        to.ascii(number.toPlainString());
    }

    @Override
    public void nothing(String name) {
        name(name);
        to.ascii("null");
    }

    @Override
    public void beginGroup(String name) {
        name(name);
        open('{');
    }

    @Override
    public void endGroup() {
        close('}');
    }

    @Override
    public void beginList(String name) {
        name(name);
        open('[');
    }

    @Override
    public void endList() {
        close(']');
    }

    private void open(char bracket) {
        to.ascii(bracket);
        first = true;
    }

    private void close(char bracket) {
        to.ascii(bracket);
        first = false;
    }

    private void name(String name) {
        if (name != null) {
            (first ? firstNames : names).write(name, to);
        } else if (!first) {
            to.ascii(',');
        }
        first = false;
    }

    /**
     * A cache of the JSON form of texts that recur as the same object, such as names of fields, loggers and threads, and
     * messages. Indexed by hash; a text replaces the previous one with the same index. For one thread.
     */
    private static final class RecurringTexts {
        private static final int SIZE = 512;
        private static final int LONGEST = 128;

        private final String before;
        private final String behind;
        private final String[] texts = new String[SIZE];
        private final byte[][] forms = new byte[SIZE][];

        /** Caches each text between two others, which are ASCII. */
        RecurringTexts(String before, String behind) {
            this.before = before;
            this.behind = behind;
        }

        /** Writes the text as a JSON string between the two others. */
        void write(String text, Utf8Buffer to) {
            int hash = text.hashCode();
            int place = (hash ^ hash >>> 16) & SIZE - 1;
            if (texts[place] == text) {
                byte[] form = forms[place];
                to.bytes(form, 0, form.length);
                return;
            }
            int from = to.length();
            to.ascii(before);
            JsonText.string(text, to);
            to.ascii(behind);
            if (text.length() <= LONGEST) {
                texts[place] = text;
                forms[place] = to.copy(from);
            }
        }
    }
}
