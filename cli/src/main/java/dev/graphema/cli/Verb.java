package dev.graphema.cli;

import java.util.concurrent.Callable;

/**
 * Something the command can do: a class with picocli's annotations. Those of other modules are found as services. {@link #call} returns the exit code
 * (0 when it did what was asked, 1 when it found nothing or something it has to complain of, 2 for misuse) and may throw
 * {@link MisuseException}.
 */
public abstract class Verb implements Callable<Integer> {
    private Console console;

    /** What the verb prints to, and how the command was called. */
    protected final Console console() {
        return console;
    }

    /** Set before {@link #call}. */
    final void console(Console console) {
        this.console = console;
    }
}
