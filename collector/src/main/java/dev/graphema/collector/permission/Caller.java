package dev.graphema.collector.permission;

import dev.graphema.collector.access.Token;
import dev.graphema.collector.rewriting.MaskedSource;
import dev.graphema.condition.Condition;
import dev.graphema.event.Event;
import dev.graphema.query.source.EventSource;
import java.util.function.UnaryOperator;

/**
 * Who sends a request.
 *
 * @param token the token; null for a caller on the same machine, as long as there are no tokens
 * @param mask what the caller sees of an event; null for all of it
 */
public record Caller(Token token, UnaryOperator<Event> mask) {
    private static final Caller ANYBODY = new Caller(null, null);

    static Caller anybody() {
        return ANYBODY;
    }

    /** Returns the name of the token; null if there is none. */
    public String name() {
        return token == null ? null : token.name();
    }

    /** Returns which events the caller may see. */
    public Condition visible() {
        return token == null ? Condition.EVERYTHING : token.when();
    }

    /** Returns the events that the caller may ask about. */
    public EventSource seen(EventSource source) {
        return mask == null ? source : new MaskedSource(source, visible(), mask);
    }

    /** Returns the environment of its events; null for unknown. */
    public String environment() {
        return token == null ? null : token.environment();
    }
}
