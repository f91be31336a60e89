package dev.graphema.format;

import dev.graphema.event.Event;
import java.time.ZoneId;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * The layout of {@link Columns}.
 *
 * @param show the columns in order: one of {@link #COLUMNS}, or {@code field} and the name of a field
 * @param widths the widths of columns in characters, if not the default ones
 * @param time the form of times
 * @param zone the time zone
 * @param hide fields that are not shown
 * @param frames how many application frames of a failure are shown; -1 for no failures
 */
public record ColumnsLayout(
        List<String> show, Map<String, Integer> widths, Time time, ZoneId zone, List<String> hide, int frames) {
    /** The form of times. */
    public enum Time {
        /** {@code 07:31:02.123} */
        TIME_OF_DAY,
        /** {@code 2026-05-15 07:31:02.123} */
        DATE_AND_TIME
    }

    static final String FIELDS = "fields";

    private static final String FIELD = "field ";
    private static final List<String> USUAL = List.of("time", "level", "source", "logger", "message", FIELDS);

    /** The columns of all events: {@code source} is the instance, or else the service. */
    public static final List<String> COLUMNS = List.of(
            FIELDS,
            "instance",
            "level",
            "logger",
            "message",
            "sequence",
            "service",
            "source",
            "span",
            "thread",
            "time",
            "trace");

    public ColumnsLayout {
        show = List.copyOf(show);
        widths = Map.copyOf(widths);
        hide = List.copyOf(hide);
        if (show.isEmpty()) {
            throw new IllegalArgumentException("no column is shown: expected some of " + String.join(", ", COLUMNS));
        }
        show.forEach(ColumnsLayout::known);
        Set<String> shown = new HashSet<>(show);
        widths.forEach((column, width) -> {
            if (!shown.contains(column) || column.equals(FIELDS)) {
                throw new IllegalArgumentException("a width is given for \"" + column
                        + "\": expected one of the columns that are shown, but for fields");
            }
        });
        if (frames < -1) {
            throw new IllegalArgumentException("frames: " + frames + " (expected: -1 or more)");
        }
    }

    /** Time of day, level, source, logger, message and fields. */
    public static ColumnsLayout usual(ZoneId zone) {
        return new ColumnsLayout(USUAL, Map.of(), Time.TIME_OF_DAY, zone, List.of(), 3);
    }

    /**
     * Returns the name of a column.
     *
     * @throws IllegalArgumentException if there is none
     */
    static String known(String column) {
        boolean isField =
                column.startsWith(FIELD) && !column.substring(FIELD.length()).isBlank();
        if (!isField && !COLUMNS.contains(column)) {
            throw new IllegalArgumentException("\"" + column + "\" is not a valid column: expected one of "
                    + String.join(", ", COLUMNS) + ", or field and the name of a field"
                    + dev.graphema.text.Nearest.hint(column, COLUMNS));
        }
        return column;
    }

    ClockText clock() {
        return time == Time.TIME_OF_DAY ? ClockText.timeOfDay(zone) : ClockText.dateAndTime(zone);
    }

    /** Returns the width of the column in characters; 0 for the width of its text. */
    int width(String column, boolean narrow, ClockText clock) {
        Integer given = widths.get(column);
        if (given != null && !column.equals("time") && !column.equals("level")) {
            return given;
        }
        return switch (column) {
            case "time" -> clock.width();
            case "level" -> 5;
            case "source", "service", "instance" -> 8;
            case "logger" -> narrow ? 14 : 22;
            case "thread" -> 12;
            case "trace" -> 32;
            case "span" -> 16;
            case "sequence" -> 7;
            case "message", FIELDS -> 0;
            default -> 12;
        };
    }

    /** Returns the text of the column, or null. */
    String text(String column, Event event, ClockText clock) {
        if (column.startsWith(FIELD)) {
            return FieldText.of(event.fields(), column.substring(FIELD.length()));
        }
        return switch (column) {
            case "time" -> event.hasTime() ? clock.text(event.epochNanos()) : "-";
            case "source" -> event.instance() != null ? event.instance() : event.service();
            case "service" -> event.service();
            case "instance" -> event.instance();
            case "logger" -> event.logger();
            case "thread" -> event.thread();
            case "message" -> event.message();
            case "trace" -> text(event.trace());
            case "span" -> text(event.span());
            case "sequence" -> Long.toString(event.sequence());
            default -> null; // level and fields are more than texts
        };
    }

    /** Returns whether the field, or its group, is hidden or has its own column. */
    boolean hides(String field) {
        return hide.stream().anyMatch(hidden -> isWithin(hidden, field))
                || show.stream()
                        .filter(column -> column.startsWith(FIELD))
                        .anyMatch(column -> isWithin(column.substring(FIELD.length()), field));
    }

    private static boolean isWithin(String name, String field) {
        return field.equals(name) || field.startsWith(name) && field.charAt(name.length()) == '.';
    }

    private static String text(Object value) {
        return value == null ? null : value.toString();
    }
}
