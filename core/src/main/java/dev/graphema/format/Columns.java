package dev.graphema.format;

import dev.graphema.event.Event;
import dev.graphema.event.Failure;
import dev.graphema.event.Frame;
import dev.graphema.event.Level;
import java.time.ZoneId;
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
 * <p>Levels from warn on are in capitals. What does not fit into the width goes on in the next line, indented. Of a
 * failure, the innermost frame and those next to it in the developer's own code are shown: code is theirs when its package
 * begins like the event's logger.
 */
public final class Columns implements Format {
    private static final int SOURCE_WIDTH = 8;
    private static final int NARROW = 110;
    private static final String INDENT = "    ";
    private static final int MOST_OWN_FRAMES = 3;

    private final ClockText clock;
    private final int width;
    private final int loggerWidth;
    private final Paint paint;

    private Columns(ClockText clock, int width, Paint paint) {
        this.clock = clock;
        this.width = width == 0 ? Integer.MAX_VALUE : Math.max(40, width);
        this.loggerWidth = this.width < NARROW ? 14 : 22;
        this.paint = paint;
    }

    /**
     * Columns with the time of day.
     *
     * @param zone in which times are shown
     * @param width the terminal's width in characters, or 0 when it is not known: then nothing is wrapped
     */
    public static Columns of(ZoneId zone, int width, Paint paint) {
        return new Columns(ClockText.timeOfDay(zone), width, paint);
    }

    @Override
    public void write(Event event, Utf8Buffer to) {
        to.ascii(clock.text(event.epochNanos())).ascii(' ');
        level(event.level(), to);
        to.ascii(' ');
        String source = event.instance() != null ? event.instance() : event.service();
        cell(source, SOURCE_WIDTH, to);
        cell(event.logger(), loggerWidth, to);

        int indent = clock.width() + 7 + SOURCE_WIDTH + 1;
        int at = indent + loggerWidth + 1;
        String message = event.message() == null ? "" : Escapes.visible(event.message());
        if (event.level() == null) {
            to.text(message);
        } else if (event.level().passes(Level.WARN)) {
            paint.strong(to, message);
        } else {
            to.text(message);
        }
        fields(event, at + message.length(), width < NARROW ? 6 : indent, to);
        to.ascii('\n');
        if (event.failure() != null) {
            failure(event.failure(), "", ownPackage(event.logger()), to);
        }
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

    private void fields(Event event, int at, int indent, Utf8Buffer to) {
        int column = at;
        boolean first = true;
        for (FieldText.Pair pair : FieldText.of(event.fields())) {
            int gap = first ? 2 : 1;
            if (column + gap + pair.width() > width && column > indent) {
                to.ascii('\n').spaces(indent);
                column = indent;
            } else {
                to.spaces(gap);
                column += gap;
            }
            paint.faint(to, pair.name());
            paint.faint(to, "=");
            to.text(pair.value());
            column += pair.width();
            first = false;
        }
    }

    /** One cell of a fixed width; a text that is too wide loses its beginning, which tells least in a dotted name. */
    private static void cell(String text, int width, Utf8Buffer to) {
        String shown = text == null ? "-" : Escapes.visible(text);
        if (shown.length() > width) {
            shown = cut(shown, width);
        }
        to.text(shown).spaces(width + 1 - shown.length());
    }

    private static String cut(String text, int width) {
        int from = text.length() - (width - 1);
        int dot = text.indexOf('.', from - 1);
        boolean tellsEnough = dot >= 0 && text.length() - dot > width / 2;
        return "…" + text.substring(tellsEnough ? dot + 1 : from);
    }

    private void failure(Failure failure, String relation, String ownPackage, Utf8Buffer to) {
        to.ascii(INDENT);
        if (!relation.isEmpty()) {
            paint.faint(to, relation);
        }
        paint.strong(to, failure.type());
        if (failure.message() != null) {
            to.ascii(": ");
            Escapes.visible(failure.message(), to);
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
        List<Frame> frames = failure.frames();
        int hidden = failure.sharedFrames() + failure.omittedFrames();
        int shown = 0;
        for (Frame frame : frames) {
            boolean isOwn = frame.type().startsWith(ownPackage);
            if (shown == 0 || isOwn && shown < MOST_OWN_FRAMES) {
                shown++;
                to.ascii(INDENT).ascii("  ");
                paint.faint(to, "at ");
                to.text(Escapes.visible(frame.toString())).ascii('\n');
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

    /** The beginning of the names of the developer's own classes. */
    private static String ownPackage(String logger) {
        int dot = logger == null ? -1 : logger.indexOf('.');
        if (dot < 0) {
            return "?"; // the logger is not named after a class, so no frame is known to be theirs
        }
        // Names such as com.example.shop begin with a part that they share with everybody.
        int second = dot <= 3 ? logger.indexOf('.', dot + 1) : -1;
        return logger.substring(0, (second < 0 ? dot : second) + 1);
    }
}
