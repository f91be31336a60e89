package dev.graphema.cli.output;

import dev.graphema.condition.Literal;
import dev.graphema.condition.Name;
import dev.graphema.event.Attribute;
import dev.graphema.event.Event;
import dev.graphema.event.Level;
import dev.graphema.format.ClockText;
import dev.graphema.format.FailureText;
import dev.graphema.text.Durations;
import dev.graphema.text.Escapes;
import dev.graphema.text.Times;
import dev.graphema.text.Utf8Buffer;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.function.Consumer;

/** Ways to show events one by one. */
public final class EventView {
    private static final List<String> USUAL_ROWS =
            List.of("time", "level", "service", "instance", "logger", "message", "trace");
    private static final String AGO = "ago";

    /** The rows that are formatted at a time, so that memory does not grow with the logs. */
    private static final int BLOCK = 10_000;

    private final Consumer<Event> shower;
    private final Runnable ending;

    private EventView(Consumer<Event> shower, Runnable ending) {
        this.shower = shower;
        this.ending = ending;
    }

    public void show(Event event) {
        shower.accept(event);
    }

    /** Shows pending rows. */
    public void end() {
        ending.run();
    }

    /** Shows default columns, or a table with the given ones. */
    public static EventView text(Console console, List<String> columns) {
        if (columns != null) {
            return rows(console, Table.Form.table, columns);
        }
        EventPrinter printer = new EventPrinter(console, EventPrinter.Form.text);
        return new EventView(printer::print, printer::flush);
    }

    public static EventView json(Console console) {
        EventPrinter printer = new EventPrinter(console, EventPrinter.Form.json);
        return new EventView(printer::print, printer::flush);
    }

    /** Shows a table or CSV, with the given or default columns. */
    public static EventView rows(Console console, Table.Form form, List<String> columns) {
        List<String> names = columns == null
                ? USUAL_ROWS
                : columns.stream().map(String::strip).toList();
        Table table = new Table(names);
        ClockText clock = ClockText.dateAndTime(console.zone());
        return new EventView(
                event -> {
                    List<Object> row = new ArrayList<>();
                    names.forEach(name -> row.add(value(event, name, form, clock)));
                    table.row(row);
                    if (table.size() == BLOCK) {
                        table.print(form, console);
                    }
                },
                () -> table.print(form, console));
    }

    private static Object value(Event event, String column, Table.Form form, ClockText clock) {
        if (column.equals(AGO)) {
            return ago(event);
        }
        Name name = Name.of(column);
        if (name.attribute() == Attribute.TIME && form == Table.Form.table) {
            return event.hasTime() ? clock.text(event.epochNanos()) : "-";
        }
        Object value = name.value(event);
        return value instanceof Number ? value : value == null ? null : value.toString();
    }

    /** Returns how long ago the event was. */
    static String ago(Event event) {
        Duration ago = Duration.ofNanos(Times.now() - event.epochNanos());
        Duration rounded = ago.abs().getSeconds() >= 60 ? Duration.ofSeconds(ago.getSeconds()) : ago;
        return ago.isNegative() ? "in " + Durations.text(rounded.negated()) : Durations.text(rounded) + " ago";
    }

    /** Shows all values of an event, each as a condition. */
    public static EventView whole(Console console) {
        return new EventView(event -> console.print(whole(event, console)), () -> {});
    }

    private static Utf8Buffer whole(Event event, Console console) {
        Utf8Buffer to = new Utf8Buffer(2048);
        Level level = event.level() == null ? Level.INFO : event.level();
        console.paint().of(level, to, String.valueOf(event.message()));
        to.text("  (" + EventPrinter.day(event.epochNanos(), console.zone()) + ", " + ago(event) + ")\n");
        line("time", Times.instant(event.epochNanos()).toString(), false, console, to);
        for (Attribute attribute : Attribute.values()) {
            boolean isUsual = attribute == Attribute.TIME
                    || attribute == Attribute.WEIGHT && event.weight() == 1
                    || attribute == Attribute.EVENT_REPEAT && !event.repeat()
                    || attribute == Attribute.HELD && !event.held()
                    || attribute == Attribute.SEQUENCE && event.sequence() == 0;
            Object value = isUsual ? null : event.value(attribute);
            if (value != null) {
                line(attribute.text(), value.toString(), !(value instanceof Number), console, to);
            }
        }
        fields("", event.fields().toMap(), console, to);
        if (event.failure() != null) {
            FailureText.of(event.failure()).lines().forEach(line -> {
                to.ascii("    ");
                Escapes.visible(line.replace("\t", "  "), to);
                to.ascii('\n');
            });
        }
        return to.ascii('\n');
    }

    private static void fields(String prefix, Map<?, ?> fields, Console console, Utf8Buffer to) {
        fields.forEach((key, value) -> {
            String name = prefix.isEmpty() ? new Name(null, key.toString()).toString() : prefix + key;
            if (value instanceof Map<?, ?> group) {
                fields(prefix + key + ".", group, console, to);
            } else if (value instanceof List<?> list) {
                list.forEach(item -> line(name, String.valueOf(item), !(item instanceof Number), console, to));
            } else if (value instanceof Duration duration) {
                line(name, duration.toNanos() + "ns", false, console, to);
            } else if (value != null) {
                line(name, value.toString(), !(value instanceof Number), console, to);
            }
        });
    }

    private static void line(String name, String value, boolean isText, Console console, Utf8Buffer to) {
        to.ascii("  ");
        console.paint().faint(to, name + " = ");
        String written = isText && !value.matches("[A-Za-z][A-Za-z0-9_.-]*") ? Literal.quoted(value) : value;
        Escapes.visible(written, to);
        to.ascii('\n');
    }
}
