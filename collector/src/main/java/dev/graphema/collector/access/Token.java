package dev.graphema.collector.access;

import dev.graphema.condition.Condition;
import java.time.Instant;
import java.util.Objects;

/**
 * A token as it is kept, without itself. Immutable.
 *
 * @param name whose it is; unique
 * @param role what its owner may do
 * @param hash the SHA-256 of the token in hexadecimal digits: it is random, so that no slow hash is needed
 * @param created when it was created
 * @param expires when it ends; null for never
 * @param when which events a reader may see; all if that is the condition for everything
 */
public record Token(String name, Role role, String hash, Instant created, Instant expires, Condition when) {
    public Token {
        Objects.requireNonNull(name, "name");
        Objects.requireNonNull(role, "role");
        Objects.requireNonNull(hash, "hash");
        Objects.requireNonNull(created, "created");
        Objects.requireNonNull(when, "when");
    }

    boolean hasExpired(Instant now) {
        return expires != null && !now.isBefore(expires);
    }
}
