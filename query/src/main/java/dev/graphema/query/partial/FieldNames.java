package dev.graphema.query.partial;

import dev.graphema.event.Event;
import dev.graphema.query.Ask;
import dev.graphema.query.answer.Coverage;
import dev.graphema.query.answer.FieldCatalogue;
import dev.graphema.query.row.EventRow;
import java.io.IOException;
import java.time.Duration;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.Supplier;

/** The names of fields. */
final class FieldNames extends Transferable implements Partial<FieldCatalogue> {
    private static final int ENOUGH = 100_000;

    private final Set<String> fields = new TreeSet<>();
    private final Set<String> durations = new TreeSet<>();
    private long events;
    private long first = Long.MAX_VALUE;
    private long last = Long.MIN_VALUE;

    @Override
    public void add(EventRow row, long order) {
        Event event = row.event();
        events++;
        if (event.hasTime()) {
            first = Math.min(first, event.epochNanos());
            last = Math.max(last, event.epochNanos());
        }
        names("", event.fields().toMap());
    }

    private void names(String prefix, Map<?, ?> group) {
        group.forEach((name, value) -> {
            fields.add(prefix + name);
            if (value instanceof Duration) {
                durations.add(prefix + name);
            }
            if (value instanceof Map<?, ?> inner) {
                names(prefix + name + ".", inner);
            }
        });
    }

    @Override
    public boolean isComplete() {
        return events >= ENOUGH;
    }

    @Override
    public String truncated() {
        return isComplete() ? "the names are those of " + events + " events" : null;
    }

    @Override
    public FieldNames merge(Partial<FieldCatalogue> other) {
        FieldNames more = (FieldNames) other;
        fields.addAll(more.fields);
        durations.addAll(more.durations);
        events += more.events;
        first = Math.min(first, more.first);
        last = Math.max(last, more.last);
        return this;
    }

    @Override
    Ask<?> ask() {
        return new Ask.Fields();
    }

    @Override
    void write(StateWriter to) throws IOException {
        to.number(events).number(first).number(last).texts(fields).texts(durations);
    }

    @Override
    void merge(StateReader from) throws IOException {
        events += from.number();
        first = Math.min(first, from.number());
        last = Math.max(last, from.number());
        fields.addAll(from.texts());
        durations.addAll(from.texts());
    }

    @Override
    public FieldCatalogue answer(Supplier<Coverage> coverage) {
        return new FieldCatalogue(events, first, last, fields, durations, coverage.get());
    }
}
