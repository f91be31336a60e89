package dev.graphema.cli;

import dev.graphema.cli.arguments.Arguments;
import dev.graphema.cli.arguments.Group;
import dev.graphema.cli.arguments.Help;
import dev.graphema.cli.arguments.MisuseException;
import dev.graphema.format.Utf8Buffer;
import java.io.IOException;

/**
 * Something the command can do. It tells its arguments when it is made ({@link #own}), and has their values when it is called. Those of other modules are
 * found as services.
 */
public abstract class Verb {
    private final String name;
    private final String purpose;
    private final Arguments arguments = new Arguments();
    private Console console;

    /**
     * @param name by which it is called
     * @param purpose what it is for, in one sentence
     */
    protected Verb(String name, String purpose) {
        this.name = name;
        this.purpose = purpose;
    }

    /**
     * Does it, once.
     *
     * @return the exit code: 0 when it did what was asked, 1 when it found nothing or something it has to complain of, 2 for misuse
     *     and when something could not be read
     * @throws MisuseException if what was given cannot be used
     */
    protected abstract int call() throws IOException, InterruptedException, MisuseException;

    /** What there is to say beyond its purpose, in sentences; nothing as is usual. */
    protected String details() {
        return "";
    }

    /** Lines with examples, as they are to be shown: at least two of them. */
    protected abstract String examples();

    /** Whether it shows local times, whatever its arguments. */
    boolean isAboutTimes() {
        return false;
    }

    /** Whether something could not be read, although there was an answer. */
    boolean hasFailed() {
        return false;
    }

    /** Its words, and options of its own. */
    protected final Group own() {
        return arguments.own();
    }

    /** Further options, with a heading over them. */
    protected final Group group(String heading) {
        return arguments.group(heading);
    }

    /** What it prints to, and how the command was called. */
    protected final Console console() {
        return console;
    }

    final String name() {
        return name;
    }

    final String purpose() {
        return purpose;
    }

    /**
     * Reads its arguments, before {@link #call}.
     *
     * @return whether it is to be called; if not, its help is asked for
     */
    final boolean read(Console to, String... line) throws MisuseException {
        console = to;
        return arguments.read(line);
    }

    /** What it is for, what it may be given, and examples. */
    final Utf8Buffer help() {
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
