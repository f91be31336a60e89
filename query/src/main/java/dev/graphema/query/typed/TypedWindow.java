package dev.graphema.query.typed;

import dev.graphema.query.Window;
import dev.graphema.text.Durations;
import java.time.Duration;
import java.util.Objects;
import java.util.stream.Stream;

/**
 * The options for a window of time, as typed; null for those that are missing. Immutable.
 *
 * @param from the start of the window
 * @param to its end, exclusive
 * @param last a duration before now
 * @param during an interval
 * @param around a time in the middle
 * @param within the duration before and after it
 */
public record TypedWindow(String from, String to, String last, String during, String around, String within) {
    private static final String USUAL_REACH = "5m";

    /**
     * Returns the window; all times if there is no option.
     *
     * @throws IllegalArgumentException if an option is invalid, or there are too many
     */
    public Window window(TimeWords words) {
        long ways =
                Stream.of(last, during, around).filter(Objects::nonNull).count() + (from != null || to != null ? 1 : 0);
        if (ways > 1) {
            throw new IllegalArgumentException(
                    "the window is given in several ways: expected one of --from and --to, --last, --during, --around");
        }
        if (within != null && around == null) {
            throw new IllegalArgumentException("--within " + within + " requires --around TIME");
        }
        if (during != null) {
            return interval("--during", during, words);
        }
        if (around != null) {
            long middle = moment("--around", around, words);
            long reach =
                    duration("--within", within == null ? USUAL_REACH : within).toNanos();
            return new Window(middle - reach, middle + reach);
        }
        if (last != null) {
            return new Window(words.now() - duration("--last", last).toNanos(), Window.ALWAYS.to());
        }
        long begin = from == null ? Window.ALWAYS.from() : moment("--from", from, words);
        long end = to == null ? Window.ALWAYS.to() : moment("--to", to, words) - 1;
        if (end < begin) {
            throw new IllegalArgumentException(
                    "--to " + to + " is not after --from " + from + ": expected a later time");
        }
        return new Window(begin, end);
    }

    /**
     * Parses an interval.
     *
     * @param option the option, for the message
     * @throws IllegalArgumentException if it is none
     */
    public static Window interval(String option, String text, TimeWords words) {
        Window window = words.interval(text);
        if (window == null) {
            throw invalid(option, text, "interval", TimeWords.EXPECTED_INTERVAL);
        }
        return window;
    }

    /**
     * Parses a time, in nanoseconds since 1970.
     *
     * @param option the option, for the message
     * @throws IllegalArgumentException if it is none
     */
    public static long moment(String option, String text, TimeWords words) {
        Long moment = words.moment(text);
        if (moment == null) {
            throw invalid(option, text, "time", TimeWords.EXPECTED_MOMENT);
        }
        return moment;
    }

    /**
     * Parses a positive duration.
     *
     * @param option the option, for the message
     * @throws IllegalArgumentException if it is none
     */
    public static Duration duration(String option, String text) {
        Duration duration = Durations.parse(text);
        if (duration == null || duration.isNegative() || duration.isZero()) {
            throw invalid(option, text, "duration", "expected one such as 15m, 2h or 3d");
        }
        return duration;
    }

    private static IllegalArgumentException invalid(String option, String text, String what, String expected) {
        return new IllegalArgumentException(option + " \"" + text + "\" is not a valid " + what + ": " + expected);
    }
}
