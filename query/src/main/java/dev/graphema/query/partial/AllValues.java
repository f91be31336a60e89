package dev.graphema.query.partial;

import dev.graphema.event.Attribute;
import dev.graphema.event.Event;
import dev.graphema.query.Ask;
import dev.graphema.query.answer.CountTable;
import dev.graphema.query.answer.Coverage;
import dev.graphema.query.answer.FieldValues;
import dev.graphema.query.row.EventRow;
import java.io.IOException;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.function.Supplier;

/** Counts the values of all names. */
final class AllValues extends Transferable implements Partial<FieldValues> {
    private static final List<Attribute> ATTRIBUTES = List.of(
            Attribute.LEVEL,
            Attribute.SERVICE,
            Attribute.INSTANCE,
            Attribute.LOGGER,
            Attribute.MESSAGE,
            Attribute.THREAD,
            Attribute.TRACE,
            Attribute.SPAN,
            Attribute.PARENT,
            Attribute.FAILURE_TYPE,
            Attribute.FAILURE_MESSAGE);

    private final String containing;
    private final int shown;
    private final Map<String, Values> names = new HashMap<>();

    /** The names that the current event has. */
    private final Set<String> here = new HashSet<>();

    private boolean isCut;

    private static final class Values {
        private final Map<String, Long> counts = new HashMap<>();
        private long events;
    }

    /**
     * @param containing a text that counted values contain, ignoring case; null for all
     * @param shown the most values
     */
    AllValues(String containing, int shown) {
        this.containing = containing == null ? null : containing.toLowerCase(Locale.ROOT);
        this.shown = shown;
    }

    @Override
    public void add(EventRow row, long order) {
        Event event = row.event();
        here.clear();
        for (Attribute attribute : ATTRIBUTES) {
            Object value = event.value(attribute);
            if (value != null) {
                value(attribute.text(), value, event.weight());
            }
        }
        group("", event.fields().toMap(), event.weight());
    }

    private void group(String prefix, Map<?, ?> group, long weight) {
        group.forEach((name, value) -> any(prefix + name, value, weight));
    }

    private void any(String name, Object value, long weight) {
        if (value instanceof Map<?, ?> group) {
            group(name + ".", group, weight);
        } else if (value instanceof List<?> items) {
            items.forEach(item -> any(name, item, weight));
        } else {
            value(name, value, weight);
        }
    }

    private void value(String name, Object value, long weight) {
        String text = String.valueOf(CountTable.text(value));
        if (containing != null && !text.toLowerCase(Locale.ROOT).contains(containing)) {
            return;
        }
        Values values = names.get(name);
        if (values == null) {
            if (names.size() >= FieldValues.MOST_DISTINCT) {
                isCut = true;
                return;
            }
            values = new Values();
            names.put(name, values);
        }
        values.events += here.add(name) ? weight : 0;
        add(values, text, weight);
    }

    private static void add(Values values, String text, long count) {
        if (values.counts.size() < FieldValues.MOST_DISTINCT || values.counts.containsKey(text)) {
            values.counts.merge(text, count, Long::sum);
        }
    }

    @Override
    public AllValues merge(Partial<FieldValues> other) {
        AllValues more = (AllValues) other;
        more.names.forEach((name, values) -> {
            Values own = names.computeIfAbsent(name, none -> new Values());
            own.events += values.events;
            values.counts.forEach((text, count) -> add(own, text, count));
        });
        isCut |= more.isCut;
        return this;
    }

    @Override
    Ask<?> ask() {
        return new Ask.Values(containing, shown);
    }

    @Override
    void write(StateWriter to) throws IOException {
        to.flag(isCut).begin();
        for (Map.Entry<String, Values> name : names.entrySet()) {
            to.begin().text(name.getKey()).number(name.getValue().events).begin();
            for (Map.Entry<String, Long> value : name.getValue().counts.entrySet()) {
                to.begin().text(value.getKey()).number(value.getValue()).end();
            }
            to.end().end();
        }
        to.end();
    }

    @Override
    void merge(StateReader from) throws IOException {
        isCut |= from.flag();
        from.begin();
        while (from.next()) {
            Values own = names.computeIfAbsent(from.text(), none -> new Values());
            own.events += from.number();
            from.begin();
            while (from.next()) {
                add(own, from.text(), from.number());
                from.end();
            }
            from.end();
        }
    }

    @Override
    public String truncated() {
        return isCut ? "there are more than " + FieldValues.MOST_DISTINCT + " names; the others are not counted" : null;
    }

    @Override
    public FieldValues answer(Supplier<Coverage> coverage) {
        List<FieldValues.OfName> list = new ArrayList<>();
        names.forEach((name, values) ->
                list.add(new FieldValues.OfName(name, values.events, values.counts.size(), mostFrequent(values))));
        list.sort(Comparator.comparingLong(FieldValues.OfName::events)
                .reversed()
                .thenComparing(FieldValues.OfName::name));
        return new FieldValues(list, coverage.get());
    }

    private List<FieldValues.Value> mostFrequent(Values values) {
        return values.counts.entrySet().stream()
                .map(each -> new FieldValues.Value(each.getKey(), each.getValue()))
                .sorted(Comparator.comparingLong(FieldValues.Value::count)
                        .reversed()
                        .thenComparing(FieldValues.Value::text))
                .limit(shown)
                .toList();
    }
}
