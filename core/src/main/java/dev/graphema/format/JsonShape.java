package dev.graphema.format;

import dev.graphema.event.Event;
import dev.graphema.text.Nearest;
import dev.graphema.text.Utf8Buffer;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * A user-defined JSON object: its keys, their order and nesting, and their values. It is given as names with texts; each text
 * is a word and its arguments:
 *
 * <pre>{@code
 * {at: time, millis: time epoch-millis, severity: level number, text: message,
 *  app: {name: service, stage: environment STAGE, kind: constant backend}, lane: field lane, tags: [instance, thread],
 *  '*': fields}
 * }</pre>
 *
 * <p>The words are listed at {@link JsonValue}. A value that an event does not have is omitted with its key, or from its
 * list. Under the name
 * {@code *}, {@code fields} are members of the object itself; a field whose name is already used is prefixed by {@code
 * fields.}. A field with its own key is not repeated among {@code fields}. Immutable.
 */
public final class JsonShape {
    private static final String INTO = "*";

    private final Map<String, Object> source;
    private final Part top;

    private JsonShape(Map<String, Object> source, Part top) {
        this.source = source;
        this.top = top;
    }

    /**
     * Parses a shape from names with texts, or with nested names.
     *
     * @throws IllegalArgumentException if a text is invalid; the message contains it and the expected input
     */
    public static JsonShape parse(Map<String, Object> source) {
        return new JsonShape(source, object("", source));
    }

    /** Returns the parsed text. */
    public Map<String, Object> source() {
        return source;
    }

    /** Returns the format that writes it, one object per line. */
    Format format(Destination destination) {
        Set<String> placed = new LinkedHashSet<>();
        top.placed(placed);
        List<String> missing = new ArrayList<>();
        top.values(missing);
        missing.removeAll(destination.values().keySet());
        if (!missing.isEmpty()) {
            throw new IllegalArgumentException("the shape asks for value " + missing.get(0)
                    + ", which the program does not give: expected "
                    + (destination.values().isEmpty()
                            ? "Settings.Builder.value to be called with that name"
                            : "one of " + String.join(", ", destination.values().keySet())
                                    + Nearest.hint(
                                            missing.get(0), destination.values().keySet())));
        }
        JsonValue.Writer writer = new JsonValue.Writer(destination.values(), placed);
        return (event, to) -> {
            to.ascii('{');
            top.write(event, writer, to);
            to.ascii("}\n");
        };
    }

    private static Part object(String path, Map<String, Object> source) {
        if (source.isEmpty()) {
            throw new IllegalArgumentException("the shape" + (path.isEmpty() ? "" : " at " + path)
                    + " is empty: expected names and values, such as text: message");
        }
        Map<String, Part> parts = new LinkedHashMap<>();
        source.forEach((name, value) -> {
            String at = path.isEmpty() ? name : path + "." + name;
            parts.put(name, part(at, name, value));
        });
        return new Part.Nested(parts);
    }

    private static Part list(String at, List<?> items) {
        if (items.isEmpty()) {
            throw new IllegalArgumentException(
                    "the shape at " + at + " is an empty list: expected values, such as [instance, thread]");
        }
        List<Part> parts = new ArrayList<>();
        for (Object item : items) {
            String place = at + "[" + parts.size() + "]";
            parts.add(part(place, place, item));
        }
        return new Part.Listed(parts);
    }

    private static Part part(String at, String name, Object value) {
        if (value instanceof List<?> items) {
            return list(at, items);
        }
        if (value instanceof Map<?, ?> map) {
            Map<String, Object> inner = new LinkedHashMap<>();
            map.forEach((key, each) -> inner.put(key.toString(), each));
            return object(at, inner);
        }
        if (name.equals(INTO)) {
            JsonValue fields = JsonValue.parse(at, (String) value);
            if (fields.word() != JsonValue.Word.FIELDS) {
                throw new IllegalArgumentException(
                        "the shape contains \"" + value + "\" at " + at + ": expected fields under the name *");
            }
            return new Part.Into(fields.places());
        }
        return new Part.Leaf(JsonValue.parse(at, (String) value));
    }

    @Override
    public boolean equals(Object other) {
        return other instanceof JsonShape that
                && new ArrayList<>(source.entrySet()).equals(new ArrayList<>(that.source.entrySet()));
    }

    @Override
    public int hashCode() {
        return source.hashCode();
    }

    @Override
    public String toString() {
        return source.toString();
    }

    /** The value of a name. */
    private sealed interface Part {
        /** Adds the fields that have their own key. */
        default void placed(Set<String> fields) {}

        /** Adds the values of the program. */
        default void values(List<String> names) {}

        /** Writes the value, or nothing if the event has none. */
        boolean write(Event event, JsonValue.Writer writer, Utf8Buffer to);

        /** As {@link #write}, with braces around an object. */
        default boolean writeEnclosed(Event event, JsonValue.Writer writer, Utf8Buffer to) {
            return write(event, writer, to);
        }

        record Leaf(JsonValue value) implements Part {
            @Override
            public void placed(Set<String> fields) {
                if (value.word() == JsonValue.Word.FIELD) {
                    fields.add(value.argument());
                }
            }

            @Override
            public void values(List<String> names) {
                if (value.word() == JsonValue.Word.VALUE) {
                    names.add(value.argument());
                }
            }

            @Override
            public boolean write(Event event, JsonValue.Writer writer, Utf8Buffer to) {
                return writer.write(value, event, to);
            }
        }

        /**
         * The fields of the enclosing object.
         *
         * @param places see {@link JsonValue#places}
         */
        record Into(int places) implements Part {
            @Override
            public boolean write(Event event, JsonValue.Writer writer, Utf8Buffer to) {
                return false; // the enclosing object writes them, because it knows its names
            }
        }

        record Nested(Map<String, Part> parts) implements Part {
            @Override
            public void placed(Set<String> fields) {
                parts.values().forEach(part -> part.placed(fields));
            }

            @Override
            public void values(List<String> names) {
                parts.values().forEach(part -> part.values(names));
            }

            /** A nested object; the caller writes the braces of the outermost one. */
            @Override
            public boolean write(Event event, JsonValue.Writer writer, Utf8Buffer to) {
                boolean first = true;
                for (Map.Entry<String, Part> entry : parts.entrySet()) {
                    if (entry.getValue() instanceof Into into) {
                        first = writer.fieldsInto(event, into.places(), first, parts.keySet(), to);
                        continue;
                    }
                    int mark = to.length();
                    if (!first) {
                        to.ascii(',');
                    }
                    JsonText.string(entry.getKey(), to);
                    to.ascii(':');
                    if (entry.getValue().writeEnclosed(event, writer, to)) {
                        first = false;
                    } else {
                        to.cutBack(mark);
                    }
                }
                return !first;
            }

            @Override
            public boolean writeEnclosed(Event event, JsonValue.Writer writer, Utf8Buffer to) {
                to.ascii('{');
                boolean written = write(event, writer, to);
                to.ascii('}');
                return written;
            }
        }

        record Listed(List<Part> items) implements Part {
            @Override
            public void placed(Set<String> fields) {
                items.forEach(item -> item.placed(fields));
            }

            @Override
            public void values(List<String> names) {
                items.forEach(item -> item.values(names));
            }

            @Override
            public boolean write(Event event, JsonValue.Writer writer, Utf8Buffer to) {
                to.ascii('[');
                boolean first = true;
                for (Part item : items) {
                    int mark = to.length();
                    if (!first) {
                        to.ascii(',');
                    }
                    if (item.writeEnclosed(event, writer, to)) {
                        first = false;
                    } else {
                        to.cutBack(mark);
                    }
                }
                to.ascii(']');
                return !first;
            }
        }
    }
}
