package dev.graphema.event;

import java.util.function.Consumer;

/**
 * What a caller puts fields into while an event, a context scope or an operation is being said. Each value becomes a
 * snapshot at once, on the calling thread: what happens to the object later does not change the event.
 *
 * <p>A name put twice in the same group keeps its place and takes the later value. A name may contain dots; whoever
 * reads finds {@code passenger.email} whether it was put under that name or as {@code email} in the group
 * {@code passenger}.
 *
 * <p>A text may have 16,384 characters, a group or list 256 entries, and they may be nested 8 deep; what is more is cut off
 * and leaves a mark that begins with {@code …}. A container within itself is cut, too.
 *
 * <p>A writer serves one thread, and only until the call that handed it out returns; what is put later is ignored.
 */
public interface FieldWriter {
    FieldWriter put(String name, String value);

    FieldWriter put(String name, long value);

    FieldWriter put(String name, double value);

    FieldWriter put(String name, boolean value);

    /** A character becomes a text of one character, not its number. */
    FieldWriter put(String name, char value);

    /** Written with the digits that {@link Float#toString(float)} shows, not with those of the nearest double. */
    FieldWriter put(String name, float value);

    /**
     * Boxed primitives, text, {@code BigDecimal}, {@code BigInteger}, {@code Instant} and {@code Duration} keep their
     * type. Other java.time types, enums, UUID, URI and classes become text. {@code Optional} becomes its content. Arrays
     * and iterables become lists, maps and records become groups. Everything else becomes the text of its
     * {@code toString}; one that throws costs only this field, which then says so.
     */
    FieldWriter put(String name, Object value);

    /** As {@link #put(String, Object)}; of a {@link Key#sensitive} key, what the settings say is put in the value's place. */
    <T> FieldWriter put(Key<T> key, T value);

    /** Puts a group: fields that are kept apart from others of the same name. */
    FieldWriter group(String name, Consumer<? super FieldWriter> fields);
}
