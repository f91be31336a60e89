package dev.graphema.cli;

import dev.graphema.condition.Condition;
import dev.graphema.event.Durations;
import dev.graphema.event.Times;
import dev.graphema.query.Logs;
import dev.graphema.query.Reading;
import dev.graphema.query.RedactedCondition;
import dev.graphema.query.Window;
import dev.graphema.settings.RedactionSettings;
import dev.graphema.settings.SettingsSource;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Collectors;
import picocli.CommandLine.Option;

/** Which logs are read, and of which time: the options that all verbs of finding share. */
final class InputOptions {
    @Option(
            names = "--in",
            paramLabel = "FILE|DIR|-",
            description = "What to read: files, folders with all .jsonl and .jsonl.gz files below, or - for standard"
                    + " input. May be given several times. Default: the current folder.")
    private List<String> in = new ArrayList<>();

    @Option(
            names = "--from",
            paramLabel = "TIME",
            description = "The first moment: 2026-05-15T07:10, with or without an"
                    + " offset such as Z or +01:00, or a date.")
    private String from;

    @Option(names = "--to", paramLabel = "TIME", description = "The moment before which to stop, written as --from.")
    private String to;

    @Option(names = "--last", paramLabel = "DURATION", description = "The time up to now: 15m, 2h, 3d.")
    private String last;

    @Option(
            names = "--redacted-by",
            paramLabel = "FILE",
            description =
                    "The settings by which the logs were redacted, with the same key in the environment: a plain value in"
                            + " the condition then also means what was put in its place, such as its pseudonym.")
    private Path redactedBy;

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
        if (readsStandardInput()) {
            if (in.size() > 1) {
                throw new MisuseException(
                        "--in - reads standard input and cannot be combined with files: expected one of" + " the two");
            }
            return Logs.from(console.input()).during(window);
        }
        List<Path> paths =
                (in.isEmpty() ? List.of(".") : in).stream().map(Path::of).toList();
        Logs logs = Logs.at(paths);
        if (logs.files().isEmpty()) {
            throw new MisuseException("no .jsonl or .jsonl.gz file in "
                    + paths.stream().map(Path::toString).collect(Collectors.joining(", "))
                    + "; name files or another folder with --in");
        }
        return logs.during(window);
    }

    /** The options that read the same files again, to be shown in a command; empty when none are needed. */
    String again() {
        return in.stream().map(path -> " --in " + Shell.quoted(path)).collect(Collectors.joining())
                + (redactedBy == null ? "" : " --redacted-by " + Shell.quoted(redactedBy.toString()));
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
                        : String.format("%,d lines are no events and were left out:", reading.unreadableCount()));
        List<Reading.Unreadable> shown = reading.unreadable();
        int most = Math.min(3, shown.size());
        shown.subList(0, most).forEach(line -> console.say("  " + line));
        if (reading.unreadableCount() > most) {
            console.say(String.format("  and %,d more", reading.unreadableCount() - most));
        }
    }

    private Window window(Console console) throws MisuseException {
        if (last == null) {
            return new Window(
                    from == null ? Window.ALWAYS.from() : time("--from", from, console),
                    to == null ? Window.ALWAYS.to() : time("--to", to, console) - 1);
        }
        if (from != null || to != null) {
            throw new MisuseException(
                    "--last " + last + " cannot be combined with --from or --to: expected one of the two");
        }
        Duration duration = Durations.parse(last);
        if (duration == null || duration.isNegative()) {
            throw new MisuseException("--last \"" + last + "\" is no duration: expected one such as 15m, 2h or 3d");
        }
        return new Window(Times.now() - duration.toNanos(), Window.ALWAYS.to());
    }

    private static long time(String option, String text, Console console) throws MisuseException {
        Long time = Times.parse(text, console.zone());
        if (time == null) {
            throw new MisuseException(option + " \"" + text
                    + "\" is no time: expected one such as 2026-05-15T07:10, 2026-05-15T07:10:30Z or 2026-05-15");
        }
        return time;
    }
}
