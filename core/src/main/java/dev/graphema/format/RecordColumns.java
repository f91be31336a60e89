package dev.graphema.format;

import dev.graphema.event.EventRecord;
import dev.graphema.event.Level;
import dev.graphema.text.Escapes;
import dev.graphema.text.Utf8Buffer;
import java.util.List;
import java.util.Locale;
import java.util.Set;

/** Writes the usual columns of a record in one line without colours, if it is not too long. For one thread. */
final class RecordColumns extends RecordPairs {
    private static final Set<String> POSSIBLE = Set.of(
            "time", "level", "source", "service", "instance", "logger", "thread", "message", ColumnsLayout.FIELDS);

    private static final int LEVEL_WIDTH = 5;

    private final List<Columns.Cell> cells;
    private final ClockText clock;
    private final int width;
    private int gap;

    /** @param width the most characters of the line */
    RecordColumns(List<Columns.Cell> cells, ClockText clock, int width) {
        super(true);
        this.cells = cells;
        this.clock = clock;
        this.width = width;
    }

    static boolean canWrite(ColumnsLayout layout) {
        return layout.hide().isEmpty() && POSSIBLE.containsAll(layout.show());
    }

    /** @return false if the line is too long, so that nothing was written */
    boolean writeLine(EventRecord event, Utf8Buffer to) {
        int begin = to.length();
        boolean first = true;
        for (Columns.Cell cell : cells) {
            if (cell.column().equals(ColumnsLayout.FIELDS)) {
                fields(event, first ? 0 : 2, to);
            } else {
                to.spaces(first ? 0 : 1);
                cell(cell, event, to);
            }
            first = false;
        }
        // A character has at least one byte, so a line of so few bytes needs no break.
        if (to.length() - begin > width) {
            to.cutBack(begin);
            return false;
        }
        to.ascii('\n');
        return true;
    }

    private void cell(Columns.Cell cell, EventRecord event, Utf8Buffer to) {
        switch (cell.column()) {
            case "time" -> {
                if (event.hasTime()) {
                    clock.write(event.epochNanos(), to);
                } else {
                    to.ascii('-').spaces(cell.width() - 1);
                }
            }
            case "level" -> level(event.level(), to);
            case "source" -> text(cell, event, event.instance() != 0 ? event.instance() : event.service(), to);
            case "service" -> text(cell, event, event.service(), to);
            case "instance" -> text(cell, event, event.instance(), to);
            case "logger" -> text(cell, event, event.logger(), to);
            case "thread" -> text(cell, event, event.thread(), to);
            default -> text(cell, event, event.message(), to);
        }
    }

    private static void level(Level level, Utf8Buffer to) {
        String text = level == null ? "-" : level.text();
        to.ascii(level != null && level.passes(Level.WARN) ? text.toUpperCase(Locale.ROOT) : text);
        to.spaces(LEVEL_WIDTH - text.length());
    }

    private static void text(Columns.Cell cell, EventRecord event, long text, Utf8Buffer to) {
        int length = text == 0 ? 0 : event.length(text);
        if (text != 0 && event.isPlain(text) && (length <= cell.width() || cell.width() == 0)) {
            to.bytes(event.array(), event.from(text), length).spaces(cell.width() - length);
            return;
        }
        String shown = text == 0 ? (cell.width() > 0 ? "-" : "") : Escapes.visible(event.string(text));
        if (cell.width() > 0 && shown.length() > cell.width()) {
            shown = Columns.cut(shown, cell.width());
        }
        to.text(shown).spaces(cell.width() - shown.length());
    }

    private void fields(EventRecord event, int gapBefore, Utf8Buffer to) {
        gap = gapBefore;
        if (event.held()) {
            begin(Columns.HELD.name(), to);
            value(Columns.HELD.value(), to);
        }
        write(event, to);
    }

    @Override
    void begin(EventRecord event, long name, Utf8Buffer line) {
        line.spaces(gap)
                .bytes(event.array(), event.from(name), event.length(name))
                .ascii('=');
        gap = 1;
    }

    @Override
    void begin(String name, Utf8Buffer line) {
        line.spaces(gap).text(name).ascii('=');
        gap = 1;
    }
}
