package dev.graphema.cli;

import dev.graphema.condition.Condition;
import dev.graphema.event.Durations;
import dev.graphema.event.Times;
import dev.graphema.query.Logs;
import dev.graphema.query.Reading;
import dev.graphema.query.RedactedCondition;
import dev.graphema.query.TimeWords;
import dev.graphema.query.Window;
import dev.graphema.query.line.LineShape;
import dev.graphema.settings.RedactionSettings;
import dev.graphema.settings.SettingsSource;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import picocli.CommandLine.Option;

/** Which logs are read, how, and of which time: the options that all verbs of finding share. */
final class InputOptions {
    @Option(
            names = "--in",
            paramLabel = "FILE|DIR|-",
            description =
                    "What to read: files, folders with all .jsonl, .ndjson and .log files below (rotated and compressed ones, too), or -"
                            + " for standard input. May be given several times. Default: the current folder.")
    private List<String> in = new ArrayList<>();

    @Option(
            names = "--from",
            paramLabel = "TIME",
            description =
                    "The first moment: 2026-05-15T07:10, with or without an offset such as Z or +01:00, a date, 07:10,"
                            + " 'yesterday 09:00', friday, '2h ago'.")
    private String from;

    @Option(names = "--to", paramLabel = "TIME", description = "The moment before which to stop, written as --from.")
    private String to;

    @Option(names = "--last", paramLabel = "DURATION", description = "The time up to now: 15m, 2h, 3d.")
    private String last;

    @Option(
            names = "--during",
            paramLabel = "INTERVAL",
            description = "An interval as in ISO 8601: 2026-05-15T07:10/2026-05-15T07:50 or 2026-05-15T07:10/PT40M.")
    private String during;

    @Option(names = "--around", paramLabel = "TIME", description = "A moment, with --within before and after it.")
    private String around;

    @Option(
            names = "--within",
            paramLabel = "DURATION",
            description = "How far --around reaches, before and after. Default: 5m.")
    private String within;

    @Option(
            names = "--zone",
            paramLabel = "ZONE",
            description =
                    "The zone in which times are meant and shown, such as Europe/Oslo or +01:00. Default: this machine's.")
    private ZoneId zone;

    @Option(
            names = "--map",
            paramLabel = "WHAT=NAME,...",
            description = "How a log calls what is not recognised by itself, as in time=when,level=sev.")
    private String mapping;

    @Option(
            names = "--pattern",
            paramLabel = "REGEX",
            description = "How lines of plain text look, in RE2 syntax with named groups:"
                    + " '(?P<time>\\S+ \\S+) (?P<level>\\w+) (?P<message>.*)'.")
    private String pattern;

    @Option(
            names = "--redacted-by",
            paramLabel = "FILE",
            description =
                    "The settings by which the logs were redacted, with the same key in the environment: a plain value in"
                            + " the condition then also means what was put in its place, such as its pseudonym.")
    private Path redactedBy;

    @Option(
            names = "--unreadable",
            description = "Show where all the lines stand that are no events, up to 100, and not three.")
    private boolean allUnreadable;

    /** The console with the zone that was asked for. */
    Console zoned(Console console) {
        return zone == null ? console : console.in(zone);
    }

    /** The logs, narrowed to the window and to what the condition says. */
    Logs logs(Console console, Condition wanted) throws IOException, MisuseException {
        if (redactedBy == null) {
            return logs(console).where(wanted);
        }
        RedactionSettings redaction = SettingsSource.of(redactedBy).read().redaction();
        Condition meant = RedactedCondition.of(wanted, redaction);
        if (!meant.equals(wanted)) {
            console.say("asked of redacted logs, this means: " + meant);
        }
        return logs(console).where(meant);
    }

    /** The logs, narrowed to the window. */
    Logs logs(Console console) throws IOException, MisuseException {
        Window window = window(console);
        LineShape shape = shape();
        if (readsStandardInput()) {
            if (in.size() > 1) {
                throw new MisuseException(
                        "--in - reads standard input and cannot be combined with files: expected one of" + " the two");
            }
            return Logs.from(console.input()).during(window).shaped(shape);
        }
        List<Path> paths = paths();
        Logs logs = Logs.at(paths);
        if (logs.files().isEmpty()) {
            throw new MisuseException("no .jsonl, .ndjson or .log file in "
                    + paths.stream().map(Path::toString).collect(Collectors.joining(", "))
                    + "; name files or another folder with --in");
        }
        return logs.during(window).shaped(shape);
    }

    /** The files and folders to be read; the current folder when none was named. */
    List<Path> paths() {
        return (in.isEmpty() ? List.of(".") : in).stream().map(Path::of).toList();
    }

    /** How the lines are to be read. */
    LineShape shape() throws MisuseException {
        try {
            LineShape shape = mapping == null ? LineShape.USUAL : LineShape.USUAL.mapped(mapping);
            return pattern == null ? shape : shape.matching(pattern);
        } catch (IllegalArgumentException e) {
            throw new MisuseException(e.getMessage());
        }
    }

    /** The options that read the same again, to be shown in a command; empty when none are needed. */
    String again() {
        StringBuilder again = new StringBuilder();
        in.forEach(path -> add(again, "--in", path));
        window(again);
        otherwise(again);
        return again.toString();
    }

    /** As {@link #again}, but for the window. */
    String againAnytime() {
        StringBuilder again = new StringBuilder();
        in.forEach(path -> add(again, "--in", path));
        otherwise(again);
        return again.toString();
    }

    private void window(StringBuilder again) {
        add(again, "--from", from);
        add(again, "--to", to);
        add(again, "--last", last);
        add(again, "--during", during);
        add(again, "--around", around);
        add(again, "--within", within);
    }

    private void otherwise(StringBuilder again) {
        add(again, "--zone", zone == null ? null : zone.toString());
        add(again, "--map", mapping);
        add(again, "--pattern", pattern);
        add(again, "--redacted-by", redactedBy == null ? null : redactedBy.toString());
    }

    private static void add(StringBuilder again, String option, String value) {
        if (value != null) {
            again.append(' ').append(option).append(' ').append(Shell.quoted(value));
        }
    }

    boolean readsStandardInput() {
        return in.contains("-");
    }

    /** Tells of lines that could not be read. */
    void complain(Reading reading, Console console) {
        if (reading.unreadableCount() == 0) {
            return;
        }
        console.say(
                reading.unreadableCount() == 1
                        ? "1 line is no event and was left out:"
                        : Counted.number(reading.unreadableCount()) + " lines are no events and were left out:");
        List<Reading.Unreadable> shown = reading.unreadable();
        int most = allUnreadable ? shown.size() : Math.min(3, shown.size());
        shown.subList(0, most).forEach(line -> console.say("  " + line));
        if (reading.unreadableCount() > most) {
            console.say("  and " + Counted.number(reading.unreadableCount() - most) + " more"
                    + (allUnreadable ? "" : "; --unreadable shows them"));
        }
    }

    Window window(Console console) throws MisuseException {
        long ways = Stream.of(last, during, around).filter(each -> each != null).count()
                + (from == null && to == null ? 0 : 1);
        if (ways > 1 || within != null && around == null) {
            throw new MisuseException(
                    ways > 1
                            ? "the window is given in several ways: expected one of --from and --to, --last, --during, --around"
                            : "--within " + within + " says how far --around reaches: expected --around TIME with it");
        }
        TimeWords words = new TimeWords(console.zone(), Instant.now());
        if (during != null) {
            return interval("--during", during, words);
        }
        if (around != null) {
            long middle = moment("--around", around, words);
            long reach = duration("--within", within == null ? "5m" : within).toNanos();
            return new Window(middle - reach, middle + reach);
        }
        return last != null
                ? new Window(Times.now() - duration("--last", last).toNanos(), Window.ALWAYS.to())
                : new Window(
                        from == null ? Window.ALWAYS.from() : moment("--from", from, words),
                        to == null ? Window.ALWAYS.to() : moment("--to", to, words) - 1);
    }

    /** The window that an option says. */
    static Window interval(String option, String text, TimeWords words) throws MisuseException {
        Window window = words.interval(text);
        if (window == null) {
            throw new MisuseException(option + " \"" + text + "\" is no interval: " + TimeWords.EXPECTED_INTERVAL);
        }
        return window;
    }

    /** The moment that an option says. */
    static long moment(String option, String text, TimeWords words) throws MisuseException {
        Long moment = words.moment(text);
        if (moment == null) {
            throw new MisuseException(option + " \"" + text + "\" is no time: " + TimeWords.EXPECTED_MOMENT);
        }
        return moment;
    }

    /** The duration that an option says. */
    static Duration duration(String option, String text) throws MisuseException {
        Duration duration = Durations.parse(text);
        if (duration == null || duration.isNegative() || duration.isZero()) {
            throw new MisuseException(option + " \"" + text + "\" is no duration: expected one such as 15m, 2h or 3d");
        }
        return duration;
    }
}
