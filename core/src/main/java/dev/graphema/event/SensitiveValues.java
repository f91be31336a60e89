package dev.graphema.event;

import java.util.function.Supplier;

/** Says what stands in the place of the values of {@linkplain Key#sensitive sensitive keys}. For any thread. */
@FunctionalInterface
public interface SensitiveValues {
    /** The kind of secret in brackets. */
    SensitiveValues FIXED = (kind, value) -> "[redacted " + kind + "]";

    /**
     * What stands there; null when the field is left out. Must not throw.
     *
     * @param kind what kind of secret it is
     * @param value gives the value as text; a value that is not asked for is not captured
     */
    String inPlaceOf(String kind, Supplier<String> value);
}
