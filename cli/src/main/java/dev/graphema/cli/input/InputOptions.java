package dev.graphema.cli.input;

import dev.graphema.cli.arguments.Argument;
import dev.graphema.cli.arguments.Group;
import dev.graphema.cli.arguments.MisuseException;
import dev.graphema.cli.output.Console;
import dev.graphema.cli.output.Counted;
import dev.graphema.cli.output.Shell;
import dev.graphema.condition.Condition;
import dev.graphema.lines.LineFiles;
import dev.graphema.lines.LineStream;
import dev.graphema.lines.shape.LineShape;
import dev.graphema.lines.shape.ShapeFile;
import dev.graphema.lines.time.TimeRules;
import dev.graphema.query.EventSelection;
import dev.graphema.query.Question;
import dev.graphema.query.RedactedCondition;
import dev.graphema.query.Window;
import dev.graphema.query.answer.Coverage;
import dev.graphema.query.source.EventSource;
import dev.graphema.query.source.SeveralSources;
import dev.graphema.query.typed.TimeWords;
import dev.graphema.query.typed.TypedWindow;
import dev.graphema.settings.RedactionSettings;
import dev.graphema.settings.SettingsSource;
import java.io.IOException;
import java.nio.file.Path;
import java.time.DateTimeException;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Supplier;
import java.util.stream.Collectors;

/** The options of all searches: which logs are read, how, and of which time. */
public final class InputOptions {
    private final Argument<List<String>> in;
    private final Argument<String> table;
    private final WindowOptions window;
    private final Argument<ZoneId> zone;
    private final Argument<String> mapping;
    private final Argument<String> pattern;
    private final Argument<List<String>> parts;
    private final Argument<String> dates;
    private final Argument<String> zones;
    private final Argument<String> timeFormat;
    private final Argument<Path> redactedBy;
    private final Argument<Boolean> explain;
    private final Argument<Boolean> allUnreadable;
    private EventSource standardInput;

    /**
     * @param which the group for what is read
     * @param when the group for the time window
     * @param how the group for how lines are read
     */
    public InputOptions(Group which, Group when, Group how) {
        in = which.texts(
                "--in",
                "FILE|DIR|URL|-",
                "Files, folders with all .jsonl, .ndjson and .log files below (rotated and compressed ones, too), segments,"
                        + " stores, the address of a collector, that of a database (jdbc:postgresql:…), or - for standard"
                        + " input. May be given several times. Default: the current folder.");
        table = which.text(
                "--table",
                "NAME",
                "The table of a database: one that the sink sql has written, or any other, whose columns are read as names in"
                        + " JSON lines are. Default: events.");
        window = new WindowOptions(when);
        zone = when.option(
                "--zone",
                "ZONE",
                null,
                InputOptions::zone,
                "The time zone, such as Europe/Oslo or +01:00. Default: that of the machine.");
        mapping = how.text(
                "--map",
                "WHAT=NAME,...",
                "The names of attributes, as in time=when,level=sev; field=NAME for a name that is not one. graphema shape"
                        + " shows what is recognised.");
        pattern = how.text(
                "--pattern",
                "REGEX",
                "The form of lines of plain text, in RE2 syntax with named groups:"
                        + " '(?P<time>\\S+ \\S+) (?P<level>\\w+) (?P<message>.*)'.");
        parts = how.texts(
                "--part",
                "NAME=FIELD:KIND",
                "A name for a part of a text: its shape, path, host, first word or length, what a pattern finds, as in"
                        + " 'lane=message:lane (\\S+)', or how often, as in 'losses=message:count:lost'. May be given"
                        + " several times.");
        dates = how.text(
                "--dates",
                "ORDER",
                "day-first or month-first, for dates such as 11/12/2026 in a log that does not show the order.");
        zones = how.text(
                "--zones", "NAME=OFFSET,...", "The offsets of names of zones that are not known, as in IST=+05:30.");
        timeFormat = how.text(
                "--time-format",
                "PATTERN",
                "The form of times in the logs, as a pattern of the JDK's DateTimeFormatter: 'yy/MM/dd HH:mm:ss'.");
        redactedBy = how.path(
                "--redacted-by",
                "FILE",
                "The settings with which the logs were redacted, with the same key in the environment: a plain value in"
                        + " the condition then also matches its replacement, such as its pseudonym.");
        explain = how.flag(
                "--explain",
                "Do not answer: show what the source decides, what is decided for each event, and the statements for a database.");
        allUnreadable = how.flag(
                "--unreadable", "Show the positions of up to 100 lines of each kind of damage, instead of three.");
    }

    private static ZoneId zone(String text) {
        try {
            return ZoneId.of(text);
        } catch (DateTimeException e) {
            throw new IllegalArgumentException("expected a zone such as Europe/Oslo or +01:00", e);
        }
    }

    /** Returns whether the question is to be explained instead of answered. */
    public boolean isExplained() {
        return explain.value();
    }

    /** Returns the requested time zone; null for that of the machine. */
    public ZoneId zone() {
        return zone.isGiven() ? zone.value() : null;
    }

    /** Returns the console with the requested time zone. */
    public Console zoned(Console console) {
        return zone.isGiven() ? console.in(zone.value()) : console;
    }

    /** Returns the events in the window that match the condition. */
    public EventSelection selection(Console console, Condition wanted) throws IOException, MisuseException {
        return Question.where(inLogs(console, wanted)).during(window(console));
    }

    /** Returns the condition as it matches in redacted logs. */
    private Condition inLogs(Console console, Condition wanted) throws IOException {
        if (!redactedBy.isGiven()) {
            return wanted;
        }
        RedactionSettings redaction =
                SettingsSource.of(redactedBy.value()).read().redaction();
        Condition meant = RedactedCondition.of(wanted, redaction);
        if (!meant.equals(wanted)) {
            console.note("in redacted logs, this means: " + meant);
        }
        return meant;
    }

    /** Returns the logs. */
    public EventSource logs(Console console) throws IOException, MisuseException {
        LineShape shape = shape();
        if (readsStandardInput()) {
            if (in.value().size() > 1) {
                throw new MisuseException(
                        "--in - reads standard input and cannot be combined with files: expected one of" + " the two");
            }
            return standardInput(console, shape);
        }
        return sources(in.isGiven() ? in.value() : List.of("."), shape);
    }

    /** Returns the logs of files, folders, collectors and tables. */
    private EventSource sources(List<String> inputs, LineShape shape) throws IOException, MisuseException {
        List<EventSource> sources = new ArrayList<>();
        List<Path> paths = new ArrayList<>();
        for (String input : inputs) {
            if (Addresses.isAddress(input)) {
                sources.addAll(Addresses.sources(input, table.value(), shape));
            } else {
                paths.add(Path.of(input));
            }
        }
        if (!paths.isEmpty()) {
            sources.add(0, LogSources.at(paths, shape));
        }
        return sources.size() == 1 ? sources.get(0) : new SeveralSources(sources);
    }

    /** Returns the files, which are not standard input. */
    public LineFiles files() throws IOException, MisuseException {
        if (readsStandardInput()) {
            throw new MisuseException("--in - is standard input: expected files or folders");
        }
        for (String input : in.value()) {
            if (Addresses.isAddress(input)) {
                throw new MisuseException("--in " + input + " is no file and no folder, which are expected here");
            }
        }
        return LogSources.files(paths()).shaped(shape());
    }

    /** Returns other logs, which are read in the same way. */
    public EventSource logsAt(List<Path> others) throws IOException, MisuseException {
        return LogSources.at(others, shape());
    }

    /** Returns the only source of standard input, which can be read once. */
    private EventSource standardInput(Console console, LineShape shape) {
        if (standardInput == null) {
            standardInput = new LineStream(console.input(), shape);
        }
        return standardInput;
    }

    /** Returns the files and folders; the current folder by default. */
    public List<Path> paths() {
        return (in.isGiven() ? in.value() : List.of(".")).stream().map(Path::of).toList();
    }

    /** Returns the shape of lines. */
    public LineShape shape() throws MisuseException {
        try {
            LineShape shape = mapping.isGiven() ? LineShape.USUAL.mapped(mapping.value()) : LineShape.USUAL;
            TimeRules times = shape.times();
            times = dates.isGiven() ? times.order(ShapeFile.order(dates.value())) : times;
            times = zones.isGiven() ? times.zones(zones.value()) : times;
            times = timeFormat.isGiven() ? times.format(timeFormat.value()) : times;
            shape = shape.timed(times);
            for (String part : parts.value()) {
                shape = shape.part(part);
            }
            return pattern.isGiven() ? shape.matching(pattern.value()) : shape;
        } catch (IllegalArgumentException e) {
            throw new MisuseException(e.getMessage());
        }
    }

    /** Returns the options that read the same logs, for suggested commands; empty if none are needed. */
    public String again() {
        StringBuilder again = new StringBuilder();
        files(again);
        window.again(again);
        otherwise(again);
        return again.toString();
    }

    /** As {@link #again}, without the window. */
    public String againAnytime() {
        StringBuilder again = new StringBuilder();
        files(again);
        otherwise(again);
        return again.toString();
    }

    /** Returns the options for the window as they are typed in a page, where values are not quoted. */
    public String typedWindow() {
        return window.typed();
    }

    private void files(StringBuilder again) {
        in.value().forEach(path -> add(again, "--in", path));
        add(again, "--table", table.value());
    }

    private void otherwise(StringBuilder again) {
        add(again, "--zone", zone.isGiven() ? zone.value().toString() : null);
        add(again, "--map", mapping.value());
        add(again, "--pattern", pattern.value());
        parts.value().forEach(part -> add(again, "--part", part));
        add(again, "--dates", dates.value());
        add(again, "--zones", zones.value());
        add(again, "--time-format", timeFormat.value());
        add(again, "--redacted-by", redactedBy.isGiven() ? redactedBy.value().toString() : null);
    }

    static void add(StringBuilder again, String option, String value) {
        if (value != null) {
            again.append(' ').append(option).append(' ').append(Shell.quoted(value));
        }
    }

    /** Returns whether standard input is read, which is possible once. */
    public boolean readsStandardInput() {
        return in.value().contains("-");
    }

    /** Reports lines that could not be read, and events that were read in part, with one line for each reason. */
    public void complain(Coverage coverage, Console console) {
        coverage.unreadable()
                .forEach(problem ->
                        console.note(Counted.of(problem.count(), "line") + " ignored: " + description(problem)));
        coverage.damaged()
                .forEach(problem ->
                        console.note(Counted.of(problem.count(), "event") + " read in part: " + description(problem)));
        coverage.failures().forEach(failure -> console.note("not read: " + failure));
    }

    private String description(Coverage.Problem problem) {
        int most = allUnreadable.value()
                ? problem.places().size()
                : Math.min(3, problem.places().size());
        String places = problem.places().subList(0, most).stream()
                .map(place -> place.source() + (place.line() == 0 ? "" : ":" + place.line()))
                .collect(Collectors.joining(", "));
        String more = problem.count() == most
                ? ""
                : " and " + Counted.number(problem.count() - most) + " more"
                        + (allUnreadable.value() ? "" : "; --unreadable shows them");
        return problem.reason() + " (" + places + more + ")";
    }

    /** Returns the window. */
    public Window window(Console console) throws MisuseException {
        return valid(() -> window.typedWindow().window(new TimeWords(console.zone(), Instant.now())));
    }

    /** Parses a window of an option. */
    public static Window interval(String option, String text, TimeWords words) throws MisuseException {
        return valid(() -> TypedWindow.interval(option, text, words));
    }

    /** Parses a time of an option. */
    public static long moment(String option, String text, TimeWords words) throws MisuseException {
        return valid(() -> TypedWindow.moment(option, text, words));
    }

    /** Parses a duration of an option. */
    public static Duration duration(String option, String text) throws MisuseException {
        return valid(() -> TypedWindow.duration(option, text));
    }

    private static <T> T valid(Supplier<T> parsing) throws MisuseException {
        try {
            return parsing.get();
        } catch (IllegalArgumentException e) {
            throw new MisuseException(e.getMessage());
        }
    }
}
