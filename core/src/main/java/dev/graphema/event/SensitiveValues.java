package dev.graphema.event;

import java.util.function.Supplier;

/**
 * Provides replacements of values of {@linkplain Key#sensitive sensitive keys}, and what is known about the redaction of
 * an event before it is complete. Thread-safe. Methods must not throw exceptions.
 */
@FunctionalInterface
public interface SensitiveValues {
    /** The kind of secret in brackets. */
    SensitiveValues FIXED = (kind, value) -> "[redacted " + kind + "]";

    /**
     * Returns the replacement; null to omit the field. Must not throw an exception.
     *
     * @param kind the kind of secret
     * @param value returns the value as text; if it is not called, the value is not captured
     */
    String inPlaceOf(String kind, Supplier<String> value);

    /** Returns a number that identifies the redaction of an event, or 0 if nothing is known about it. */
    default long id() {
        return 0;
    }

    /** Returns whether the redaction is known to change neither the name nor any value of a field of this name. */
    default boolean keepsField(String name) {
        return false;
    }

    /** Returns whether the redaction is known not to change this value of a field. */
    default boolean keepsText(String value) {
        return false;
    }
}
