package dev.graphema.cli.verb;

import dev.graphema.cli.arguments.Arguments;
import dev.graphema.cli.arguments.Group;
import dev.graphema.cli.arguments.Help;
import dev.graphema.cli.arguments.MisuseException;
import dev.graphema.cli.output.Console;
import dev.graphema.text.Utf8Buffer;
import java.io.IOException;
import java.util.List;

/**
 * A command of the command line. It declares its arguments when it is created ({@link #own}), and has their values when
 * it is called. Commands of other modules are found as services.
 */
public abstract class Verb {
    /** Exit code: no events were found. */
    public static final int NOTHING = 1;

    /** Exit code: the command is invalid. */
    public static final int MISUSE = 2;

    /** Exit code: something could not be read or written, so the answer may be incomplete. */
    public static final int FAILURE = 2;

    /** The commands that search logs, and whose questions are stored. */
    public static final List<String> FINDING =
            List.of("around", "compare", "contrast", "faults", "fields", "find", "tally", "timeline", "trail", "watch");

    private final String name;
    private final String purpose;
    private final Arguments arguments = new Arguments();
    private Console console;

    /**
     * @param name its name
     * @param purpose its purpose, in one sentence
     */
    protected Verb(String name, String purpose) {
        this.name = name;
        this.purpose = purpose;
    }

    /**
     * Runs the command, once.
     *
     * @return the exit code: 0 for success, 1 if it found nothing or reports problems, 2 for an invalid command and if
     *     something could not be read
     * @throws MisuseException if the arguments are invalid
     */
    public abstract int call() throws IOException, InterruptedException, MisuseException;

    /** Returns further sentences of the help; usually empty. */
    protected String details() {
        return "";
    }

    /** Returns two or more lines with examples. */
    protected abstract String examples();

    /** Returns whether it always shows local times. */
    public boolean isAboutTimes() {
        return false;
    }

    /** Returns whether something could not be read. */
    public boolean hasFailed() {
        return false;
    }

    /** Returns the group of its words and options. */
    protected final Group own() {
        return arguments.own();
    }

    /** Returns a further group of options with a heading. */
    protected final Group group(String heading) {
        return arguments.group(heading);
    }

    /** Returns the console. */
    protected final Console console() {
        return console;
    }

    public final String name() {
        return name;
    }

    public final String purpose() {
        return purpose;
    }

    /** Returns the names of its options, such as {@code --in}. */
    public final List<String> options() {
        return arguments.options();
    }

    /**
     * Reads its arguments, before {@link #call}.
     *
     * @return false if its help is requested
     */
    public final boolean read(Console to, String... line) throws MisuseException {
        console = to;
        return arguments.read(line);
    }

    /** Prints its purpose, arguments and examples. */
    public final Utf8Buffer help() {
        Help help = Help.of(
                "graphema " + name,
                (purpose + " " + details()).strip(),
                arguments,
                console.paint(),
                console.textWidth());
        help.gap().heading("Examples:");
        examples().lines().forEach(example -> help.line(example.isEmpty() ? "" : "  " + example));
        return help.toBuffer();
    }
}
