package dev.graphema.format;

import dev.graphema.event.Failure;
import dev.graphema.event.Fields;
import dev.graphema.text.Utf8Buffer;

/** Parts of an event in Graphema JSON. */
public final class Json {
    private Json() {}

    /** Returns the fields as an object; always valid JSON. */
    public static String of(Fields fields) {
        Utf8Buffer buffer = new Utf8Buffer(256);
        new JsonFields().write(fields, buffer);
        return buffer.toString();
    }

    /** Returns the text as a string, in quotes. */
    public static String of(String text) {
        Utf8Buffer buffer = new Utf8Buffer(text.length() + 16);
        JsonText.string(text, buffer);
        return buffer.toString();
    }

    /** Returns the failure as an object; always valid JSON. */
    public static String of(Failure failure) {
        Utf8Buffer buffer = new Utf8Buffer(1024);
        JsonFailure.write(failure, buffer);
        return buffer.toString();
    }
}
