package dev.graphema.format;

import dev.graphema.event.Event;
import dev.graphema.terminal.Paint;
import dev.graphema.terminal.Terminals;
import java.util.Map;
import java.util.function.Function;

/**
 * The destination of the output of a format.
 *
 * @param isTerminal whether it is a terminal
 * @param width the width of the terminal in characters, or 0 if unknown or none
 * @param paint the colours
 * @param mayRepeat whether an event may be written twice, so that its id should be included
 * @param values values of the program that formats use by name
 */
public record Destination(
        boolean isTerminal,
        int width,
        Paint paint,
        boolean mayRepeat,
        Map<String, Function<? super Event, String>> values) {
    /** A destination for bytes without a reader. */
    public static final Destination PLAIN = new Destination(false, 0, Paint.NONE, false, Map.of());

    public Destination {
        values = Map.copyOf(values);
    }

    /** Returns a destination such as a file or a connection. */
    public static Destination machine(boolean mayRepeat, Map<String, Function<? super Event, String>> values) {
        return new Destination(false, 0, Paint.NONE, mayRepeat, values);
    }

    /** Returns the standard output or error of the process, depending on the terminal and the environment. */
    public static Destination console(Map<String, Function<? super Event, String>> values) {
        boolean isTerminal = Terminals.isPresent();
        return new Destination(isTerminal, isTerminal ? Terminals.width() : 0, Terminals.paint(), false, values);
    }
}
