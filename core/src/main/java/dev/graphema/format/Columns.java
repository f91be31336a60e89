package dev.graphema.format;

import dev.graphema.event.Event;
import dev.graphema.event.EventRecord;
import dev.graphema.event.Failure;
import dev.graphema.event.Level;
import dev.graphema.terminal.Paint;
import dev.graphema.text.Escapes;
import dev.graphema.text.Utf8Buffer;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/**
 * Events for people, on a terminal:
 *
 * <pre>{@code
 * 07:31:02.123 info  deck-1   skerry.deck.Lanes      lanes taken  lane=A3 lock_wait_ms=2
 * 07:31:02.391 ERROR deck-2   skerry.deck.Lanes      lanes not free  lane=A3 lock_wait_ms=250
 *     skerry.deck.LaneTimeout: lane A3 was not free within 250 ms
 *       at skerry.deck.Lanes.take(Lanes.java:42)
 *       … 14 more frames
 * }</pre>
 *
 * <p>Levels from warn on are in capitals. Text that exceeds the width continues in the next line, indented. Of a failure, the
 * innermost frame and the next frames of the application are shown: those whose package begins like the logger of the
 * event.
 */
public final class Columns implements Format {
    private static final int NARROW = 110;
    private static final String INDENT = "    ";

    /** Reports of Graphema itself, such as that a task of the application has failed. */
    private static final String OWN_LOGGER = "dev.graphema";

    /** The mark of an event that was held back, in the form of a condition. */
    static final FieldText.Pair HELD = new FieldText.Pair("held", "true");

    private final ColumnsLayout layout;
    private final ClockText clock;
    private final int width;
    private final Paint paint;
    private final List<Cell> cells = new ArrayList<>();
    private final int fieldsIndent;

    /** Writes usual lines; null if colours or columns make that impossible. */
    private final RecordColumns records;

    private Columns(ColumnsLayout layout, int width, Paint paint) {
        this.layout = layout;
        this.clock = layout.clock();
        this.width = width == 0 ? Integer.MAX_VALUE : Math.max(40, width);
        this.paint = paint;
        boolean narrow = this.width < NARROW;
        int start = 0;
        int lastStart = 0;
        for (String column : layout.show()) {
            int cellWidth = layout.width(column, narrow, clock);
            cells.add(new Cell(column, cellWidth));
            if (cellWidth > 0) {
                lastStart = start;
                start += cellWidth + 1;
            }
        }
        this.fieldsIndent = narrow ? Math.min(6, lastStart) : lastStart;
        boolean isUsual = paint == Paint.NONE && RecordColumns.canWrite(layout);
        this.records = isUsual ? new RecordColumns(cells, clock, this.width) : null;
    }

    /**
     * Returns the default columns with the time of day.
     *
     * @param zone the time zone of times
     * @param width the width of the terminal in characters, or 0 if unknown: then nothing is wrapped
     */
    public static Columns of(ZoneId zone, int width, Paint paint) {
        return new Columns(ColumnsLayout.usual(zone), width, paint);
    }

    /** Returns custom columns. */
    public static Columns of(ColumnsLayout layout, int width, Paint paint) {
        return new Columns(layout, width, paint);
    }

    @Override
    public void write(Event event, Utf8Buffer to) {
        int at = 0;
        boolean first = true;
        for (Cell cell : cells) {
            if (cell.column.equals(ColumnsLayout.FIELDS)) {
                at = fields(event, at, first ? 0 : 2, to);
                first = false;
                continue;
            }
            if (!first) {
                to.ascii(' ');
                at++;
            }
            first = false;
            at += cell(cell, event, at, to);
        }
        to.ascii('\n');
        if (event.failure() != null && layout.frames() >= 0) {
            failure(event.failure(), "", ownPackage(event.logger()), to);
        }
    }

    @Override
    public void write(EventRecord event, Utf8Buffer to) {
        if (records == null || !records.writeLine(event, to)) {
            write(event.event(), to);
            return;
        }
        Failure failure = layout.frames() < 0 ? null : event.failure();
        if (failure != null) {
            failure(failure, "", ownPackage(event.string(event.logger())), to);
        }
    }

    /**
     * Writes one cell.
     *
     * @return the number of characters
     */
    private int cell(Cell cell, Event event, int at, Utf8Buffer to) {
        if (cell.column.equals("level")) {
            level(event.level(), to);
            return cell.width;
        }
        String text = layout.text(cell.column, event, clock);
        String shown = text == null ? (cell.width > 0 ? "-" : "") : Escapes.visible(text);
        if (cell.width > 0 && shown.length() > cell.width) {
            shown = cut(shown, cell.width);
        }
        boolean strong = cell.column.equals("message")
                && event.level() != null
                && event.level().passes(Level.WARN);
        if (cell.width == 0) {
            return flow(shown, at, fieldsIndent + 2, strong, to) - at;
        }
        to.text(shown);
        to.spaces(cell.width - shown.length());
        return cell.width;
    }

    private void level(Level level, Utf8Buffer to) {
        if (level == null) {
            to.ascii("-    ");
            return;
        }
        String text = level.passes(Level.WARN) ? level.text().toUpperCase(Locale.ROOT) : level.text();
        paint.of(level, to, text);
        to.spaces(5 - text.length());
    }

    /**
     * Writes a printable text from a column on, and wraps it with indentation at the width.
     *
     * @return the column after it
     */
    private int flow(String text, int at, int indent, boolean strong, Utf8Buffer to) {
        int column = at;
        int written = 0;
        while (text.length() - written > width - column) {
            int end = written + Math.max(0, width - column);
            if (end > written && Character.isHighSurrogate(text.charAt(end - 1))) {
                end--;
            }
            piece(text.substring(written, end), strong, to);
            to.ascii('\n').spaces(indent);
            column = indent;
            written = end;
        }
        piece(text.substring(written), strong, to);
        return column + text.length() - written;
    }

    private void piece(String text, boolean strong, Utf8Buffer to) {
        if (strong) {
            paint.strong(to, text);
        } else {
            to.text(text);
        }
    }

    /**
     * Writes the fields after the line.
     *
     * @return the column after the last field
     */
    private int fields(Event event, int at, int gapBefore, Utf8Buffer to) {
        int column = at;
        int gap = gapBefore;
        for (FieldText.Pair pair : pairs(event)) {
            if (layout.hides(pair.name())) {
                continue;
            }
            if (column + gap + pair.width() > width && column > fieldsIndent) {
                to.ascii('\n').spaces(fieldsIndent);
                column = fieldsIndent;
            } else {
                to.spaces(gap);
                column += gap;
            }
            paint.faint(to, pair.name());
            paint.faint(to, "=");
            column = flow(pair.value(), column + pair.name().length() + 1, fieldsIndent + 2, false, to);
            gap = 1;
        }
        return column;
    }

    private static List<FieldText.Pair> pairs(Event event) {
        List<FieldText.Pair> pairs = FieldText.of(event.fields());
        if (event.held()) {
            pairs.add(0, HELD);
        }
        return pairs;
    }

    /** A text that is too wide loses its beginning, the least informative part of a dotted name. */
    static String cut(String text, int width) {
        int from = text.length() - (width - 1);
        int dot = text.indexOf('.', from - 1);
        boolean isEnough = dot >= 0 && text.length() - dot > width / 2;
        return "…" + text.substring(isEnough ? dot + 1 : from);
    }

    private void failure(Failure failure, String relation, String ownPackage, Utf8Buffer to) {
        to.ascii(INDENT);
        if (!relation.isEmpty()) {
            paint.faint(to, relation);
        }
        paint.strong(to, failure.type());
        if (failure.message() != null) {
            to.ascii(": ");
            int at = INDENT.length() + relation.length() + failure.type().length() + 2;
            flow(Escapes.visible(failure.message()), at, INDENT.length() + 2, false, to);
        }
        to.ascii('\n');
        frames(failure, ownPackage, to);
        if (failure.cause() != null) {
            failure(failure.cause(), "caused by ", ownPackage, to);
        }
        for (Failure each : failure.suppressed()) {
            failure(each, "suppressed ", ownPackage, to);
        }
    }

    private void frames(Failure failure, String ownPackage, Utf8Buffer to) {
        List<Failure.Frame> frames = failure.frames();
        int hidden = failure.sharedFrames() + failure.omittedFrames();
        int shown = 0;
        for (Failure.Frame frame : frames) {
            boolean isOwn = frame.type().startsWith(ownPackage);
            if (layout.frames() > 0 && shown == 0 || isOwn && shown < layout.frames()) {
                shown++;
                to.ascii(INDENT).ascii("  ");
                paint.faint(to, "at ");
                flow(Escapes.visible(frame.toString()), INDENT.length() + 5, INDENT.length() + 7, false, to);
                to.ascii('\n');
            } else {
                hidden++;
            }
        }
        if (hidden > 0) {
            to.ascii(INDENT).ascii("  ");
            paint.faint(to, "… " + hidden + (hidden == 1 ? " more frame" : " more frames"));
            to.ascii('\n');
        }
    }

    /** Returns the common prefix of the names of application classes. */
    private static String ownPackage(String logger) {
        int dot = logger == null || logger.startsWith(OWN_LOGGER) ? -1 : logger.indexOf('.');
        if (dot < 0) {
            return "?"; // the logger is not named after a class of the application, so no frame is known to be theirs
        }
        // Names such as com.example.shop begin with a part that they share with everybody.
        int second = dot <= 3 ? logger.indexOf('.', dot + 1) : -1;
        return logger.substring(0, (second < 0 ? dot : second) + 1);
    }

    /** @param width 0 for the width of the text */
    record Cell(String column, int width) {}
}
