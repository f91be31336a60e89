package dev.graphema.format;

import dev.graphema.event.Event;
import java.util.Map;
import java.util.function.Function;

/**
 * Where a format's output goes.
 *
 * @param isTerminal whether somebody looks
 * @param width the terminal's width in characters, or 0 when it is not known or there is none
 * @param paint the colours that suit it
 * @param mayRepeat whether the same event may be written twice, so that its id should be told
 * @param values values of the developer's own, which a format may ask for by name
 */
public record Destination(
        boolean isTerminal,
        int width,
        Paint paint,
        boolean mayRepeat,
        Map<String, Function<? super Event, String>> values) {
    /** Bytes that nobody looks at. */
    public static final Destination PLAIN = new Destination(false, 0, Paint.NONE, false, Map.of());

    public Destination {
        values = Map.copyOf(values);
    }

    /** A place like a file or a connection. */
    public static Destination machine(boolean mayRepeat, Map<String, Function<? super Event, String>> values) {
        return new Destination(false, 0, Paint.NONE, mayRepeat, values);
    }

    /** The process's own output or error stream, as the terminal and the environment say. */
    public static Destination console(Map<String, Function<? super Event, String>> values) {
        boolean isTerminal = Terminals.isPresent();
        return new Destination(isTerminal, isTerminal ? Terminals.width() : 0, Terminals.paint(), false, values);
    }
}
