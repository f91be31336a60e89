package dev.graphema.collector.permission;

import dev.graphema.collector.access.Token;
import dev.graphema.condition.Condition;

/**
 * Who sends a request.
 *
 * @param token the token; null for a caller on the same machine, as long as there are no tokens
 */
public record Caller(Token token) {
    private static final Caller ANYBODY = new Caller(null);

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

    /** Returns the environment of its events; null for unknown. */
    public String environment() {
        return token == null ? null : token.environment();
    }
}
