package dev.graphema;

/**
 * Context fields or a correlation that apply to a thread until the scope is closed. To be used in a try-with-resources statement.
 * Closing a scope twice has no effect. Closing a scope also closes scopes that were opened later on the same thread.
 */
public interface Scope extends AutoCloseable {
    @Override
    void close();
}
