package dev.graphema.collector.access;

import dev.graphema.condition.Condition;
import java.time.Instant;
import java.util.List;
import java.util.Objects;

/**
 * A token as it is kept, without itself. Immutable.
 *
 * @param name whose it is; unique
 * @param role what its owner may do
 * @param hash the SHA-256 of the token in hexadecimal digits, which is random, so that no slow hash is needed; or the slow hash of the
 *     password of a user
 * @param created when it was created
 * @param expires when it ends; null for never
 * @param environment the environment of what is sent; null for that of the collector
 * @param when which events a reader may see; all if that is the condition for everything
 * @param hidden the fields that a reader does not see; a group with all below it
 * @param pseudonyms the fields of which a reader sees pseudonyms
 */
public record Token(
        String name,
        Role role,
        String hash,
        Instant created,
        Instant expires,
        String environment,
        Condition when,
        List<String> hidden,
        List<String> pseudonyms) {
    public Token {
        Objects.requireNonNull(name, "name");
        Objects.requireNonNull(role, "role");
        Objects.requireNonNull(hash, "hash");
        Objects.requireNonNull(created, "created");
        Objects.requireNonNull(when, "when");
        hidden = List.copyOf(hidden);
        pseudonyms = List.copyOf(pseudonyms);
    }

    /** Returns whether it is a user, who signs in with a password. */
    public boolean isUser() {
        return hash.startsWith(Passwords.PREFIX);
    }

    /** Returns a token that can do everything that its role allows, and never ends, for a name without a secret yet. */
    public static Token of(String name, Role role) {
        return new Token(name, role, "", Instant.EPOCH, null, null, Condition.EVERYTHING, List.of(), List.of());
    }

    /** Returns the token with an end; null for never. */
    public Token until(Instant end) {
        return new Token(name, role, hash, created, end, environment, when, hidden, pseudonyms);
    }

    /** Returns the token with the environment of what is sent. */
    public Token in(String environment) {
        return new Token(name, role, hash, created, expires, environment, when, hidden, pseudonyms);
    }

    /** Returns the token for a reader who sees only such events. */
    public Token seeing(Condition when) {
        return new Token(name, role, hash, created, expires, environment, when, hidden, pseudonyms);
    }

    /** Returns the token for a reader who does not see these fields, or pseudonyms of their values. */
    public Token hiding(List<String> hidden, List<String> pseudonyms) {
        return new Token(name, role, hash, created, expires, environment, when, hidden, pseudonyms);
    }

    Token withHash(String hash, Instant created) {
        return new Token(name, role, hash, created, expires, environment, when, hidden, pseudonyms);
    }

    boolean hasExpired(Instant now) {
        return expires != null && !now.isBefore(expires);
    }
}
