package dev.graphema.cli;

import dev.graphema.cli.arguments.Argument;
import dev.graphema.cli.arguments.MisuseException;
import dev.graphema.condition.Condition;
import dev.graphema.query.Logs;
import dev.graphema.query.Reading;
import java.io.IOException;

/** A verb that looks for something in logs: with the options that say in which, and with commands that narrow further. */
abstract class FindingVerb extends Verb {
    private final InputOptions input = new InputOptions(
            group("What is read:"), group("Of which time:"), group("When lines are not recognised, or were redacted:"));
    private Progress progress;
    private boolean hasFailed;

    FindingVerb(String name, String purpose) {
        super(name, purpose);
    }

    @Override
    boolean isAboutTimes() {
        return true;
    }

    @Override
    boolean hasFailed() {
        return hasFailed;
    }

    final InputOptions input() {
        return input;
    }

    /** How the answer is shown. */
    final Argument<Table.Form> form() {
        return own().choice("--as", "FORM", Table.Form.text, "text, table, json or csv. Default: text.");
    }

    /** The console, with the zone that was asked for. */
    final Console out() {
        return input.zoned(console());
    }

    final Condition condition(String text) {
        return Condition.parse(text, () -> out().zone());
    }

    final Logs logs(Condition wanted) throws IOException, MisuseException {
        return input.logs(out(), wanted).watched(progress());
    }

    private Progress progress() {
        if (progress == null) {
            progress = new Progress(console());
        }
        return progress;
    }

    /** Takes away what tells of progress, and tells of what could not be read, or was not. */
    final void complain(Reading reading) {
        progress().clear();
        input.complain(reading, out());
        hasFailed |= !reading.failures().isEmpty();
        if (reading.isStopped()) {
            out().say("stopped: this is of the first " + Progress.read(reading) + " alone");
        }
    }

    /** Shows a command that goes on from here, with what it is for. */
    final void next(String purpose, String verbAndArguments) {
        out().say(purpose + ": " + out().command() + " " + verbAndArguments + input.again());
    }

    /** {@code 1,204 read in 3 files}. */
    static String read(Reading reading) {
        return Counted.number(reading.events()) + " read in " + Counted.of(reading.files(), "file");
    }

    /** Says that nothing matches, and returns the exit code for it. */
    final int nothing(Reading reading) {
        out().say("no event matches; " + read(reading));
        return Main.NOTHING;
    }

    /** The condition and a further one. */
    static String joined(Condition wanted, String more) {
        return wanted.isEverything()
                ? more
                : Condition.parse("(" + wanted + ") and " + more).toString();
    }

    /** The condition as an argument of a command, with a blank before it; nothing when there is none. */
    static String argument(Condition wanted) {
        return wanted.isEverything() ? "" : " " + Shell.quoted(wanted.toString());
    }

    /** How many rows are asked for; 0 means all. */
    static int limit(int given) {
        return given == 0 ? Integer.MAX_VALUE : given;
    }
}
