package dev.graphema.event;

import java.util.function.Supplier;

/** Provides replacements of values of {@linkplain Key#sensitive sensitive keys}. Thread-safe. */
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
}
