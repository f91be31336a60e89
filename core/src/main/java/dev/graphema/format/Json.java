package dev.graphema.format;

import dev.graphema.event.Failure;
import dev.graphema.event.Fields;

/** Parts of an event as JSON, in the form that {@link JsonLines} gives them. */
public final class Json {
    private Json() {}

    /** The fields as an object; valid JSON whatever they contain. */
    public static String of(Fields fields) {
        Utf8Buffer buffer = new Utf8Buffer(256);
        new JsonFields().write(fields, buffer);
        return buffer.toString();
    }

    /** The text as a string, in quotes. */
    public static String of(String text) {
        Utf8Buffer buffer = new Utf8Buffer(text.length() + 16);
        JsonText.string(text, buffer);
        return buffer.toString();
    }

    /** The failure as an object; valid JSON whatever it contains. */
    public static String of(Failure failure) {
        Utf8Buffer buffer = new Utf8Buffer(1024);
        JsonFailure.write(failure, buffer);
        return buffer.toString();
    }
}
