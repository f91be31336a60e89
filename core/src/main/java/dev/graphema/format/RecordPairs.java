package dev.graphema.format;

import dev.graphema.event.EventRecord;
import dev.graphema.text.Decimals;
import dev.graphema.text.Durations;
import dev.graphema.text.Utf8Buffer;
import java.math.BigDecimal;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayDeque;
import java.util.Deque;

/**
 * Writes the fields of records as pairs of a name and a value, with the texts of {@link FieldText}. Names and texts are
 * copied; only groups, lists and unusual characters need objects. For one thread.
 */
abstract class RecordPairs implements EventRecord.Visitor {
    private final boolean quotes;
    private final Deque<String> groups = new ArrayDeque<>();
    private FieldText list;
    private EventRecord record;
    private Utf8Buffer to;

    /** @param quotes whether texts are quoted if they could be read as several values */
    RecordPairs(boolean quotes) {
        this.quotes = quotes;
    }

    /** Writes all fields. */
    final void write(EventRecord event, Utf8Buffer line) {
        record = event;
        to = line;
        list = null;
        groups.clear();
        event.visit(this);
    }

    /**
     * Writes what is before the value of a pair.
     *
     * @param name a plain text of the record
     */
    abstract void begin(EventRecord event, long name, Utf8Buffer line);

    /**
     * As above.
     *
     * @param name a printable text
     */
    abstract void begin(String name, Utf8Buffer line);

    /** Writes a text of the record. */
    void value(EventRecord event, long text, Utf8Buffer line) {
        KeyValue.value(event, text, line);
    }

    /** Writes a text that {@link FieldText} has formatted. */
    void value(String text, Utf8Buffer line) {
        line.text(text);
    }

    /** Writes what is behind the value of a pair. */
    void end(Utf8Buffer line) {
        // nothing is behind a value, unless it is in quotes
    }

    @Override
    public final void text(long name, long value) {
        if (list != null) {
            list.text(record.string(name), record.string(value));
            return;
        }
        name(name);
        value(record, value, to);
        end(to);
    }

    @Override
    public final void integer(long name, long value) {
        if (list != null) {
            list.integer(record.string(name), value);
            return;
        }
        name(name);
        to.number(value);
        end(to);
    }

    @Override
    public final void real(long name, double value) {
        if (list != null) {
            list.real(record.string(name), value);
            return;
        }
        name(name);
        to.real(value);
        end(to);
    }

    @Override
    public final void decimal(long name, BigDecimal value) {
        add(name, Decimals.text(value));
    }

    @Override
    public final void bool(long name, boolean value) {
        add(name, value ? "true" : "false");
    }

    @Override
    public final void time(long name, Instant value) {
        add(name, value.toString());
    }

    @Override
    public final void duration(long name, Duration value) {
        add(name, Durations.text(value).replace(" ", ""));
    }

    @Override
    public final void nothing(long name) {
        add(name, "null");
    }

    @Override
    public final void beginGroup(long name) {
        if (list != null) {
            list.beginGroup(record.string(name));
        } else {
            groups.addLast(record.string(name));
        }
    }

    @Override
    public final void endGroup() {
        if (list != null) {
            list.endGroup();
        } else {
            groups.removeLast();
        }
    }

    @Override
    public final void beginList(long name) {
        if (list == null) {
            list = new FieldText(quotes);
            list.beginList(FieldText.path(groups, record.string(name)));
        } else {
            list.beginList(record.string(name));
        }
    }

    @Override
    public final void endList() {
        list.endList();
        if (!list.isInList()) {
            FieldText.Pair pair = list.pairs().get(0);
            list = null;
            begin(pair.name(), to);
            value(pair.value(), to);
            end(to);
        }
    }

    /** Writes a value whose text is printable and contains no sign of any format. */
    private void add(long name, String value) {
        if (list != null) {
            list.add(record.string(name), value);
            return;
        }
        name(name);
        to.ascii(value);
        end(to);
    }

    private void name(long name) {
        if (groups.isEmpty() && record.isPlain(name)) {
            begin(record, name, to);
        } else {
            begin(FieldText.path(groups, record.string(name)), to);
        }
    }
}
