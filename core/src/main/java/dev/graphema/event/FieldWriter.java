package dev.graphema.event;

import java.util.function.Consumer;

/**
 * Adds fields to an event, a context or an operation. Each value is captured immediately, on the calling thread; later
 * changes to the object have no effect.
 *
 * <p>If a name is put twice in the same group, the field keeps its position and has the later value. A name may contain
 * dots: {@code passenger.email} is found whether it was put with that name or as {@code email} in the group {@code
 * passenger}.
 *
 * <p>A text may have 16,384 characters, a group or list 256 entries, and the nesting may be 8 deep. What exceeds these
 * limits is cut and has a marker that begins with {@code …}. Cycles are cut, too.
 *
 * <p>For one thread, until the call that passed the writer returns; later calls are ignored.
 */
public interface FieldWriter {
    FieldWriter put(String name, String value);

    FieldWriter put(String name, long value);

    FieldWriter put(String name, double value);

    FieldWriter put(String name, boolean value);

    /** Puts a text of one character, not its number. */
    FieldWriter put(String name, char value);

    /** Puts the number that {@link Float#toString(float)} shows, not the nearest double. */
    FieldWriter put(String name, float value);

    /**
     * Puts any value. Boxed primitives, text, {@code BigDecimal}, {@code BigInteger}, {@code Instant} and {@code
     * Duration} keep their type. Other java.time types, enums, UUID, URI and classes become text. {@code Optional}
     * becomes its content. Arrays and iterables become lists, maps and records become groups. Any other object becomes
     * the text of its {@code toString}; if that throws an exception, the field describes it.
     */
    FieldWriter put(String name, Object value);

    /**
     * As {@link #put(String, Object)}; for a {@link Key#sensitive} key, puts the replacement that the settings define.
     */
    <T> FieldWriter put(Key<T> key, T value);

    /** Puts a group of fields. */
    FieldWriter group(String name, Consumer<? super FieldWriter> fields);
}
