package dev.graphema;

/**
 * Something that holds on this thread until it is closed: context fields, a correlation. Made for try-with-resources.
 * Closing twice does nothing; scopes closed out of order still end each for itself.
 */
public interface Scope extends AutoCloseable {
    @Override
    void close();
}
