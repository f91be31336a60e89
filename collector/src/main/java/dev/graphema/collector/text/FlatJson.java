package dev.graphema.collector.text;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonGenerator;
import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonToken;
import java.io.IOException;
import java.io.StringWriter;
import java.io.UncheckedIOException;
import java.nio.channels.FileChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;

/** JSON objects whose members are texts. */
public final class FlatJson {
    private static final JsonFactory JSON = new JsonFactory();

    private FlatJson() {}

    /** Returns an object with the members that are not null, in their order. */
    public static String of(Map<String, String> members) {
        StringWriter text = new StringWriter();
        try (JsonGenerator json = JSON.createGenerator(text)) {
            json.writeStartObject();
            for (Map.Entry<String, String> each : members.entrySet()) {
                if (each.getValue() != null) {
                    json.writeStringField(each.getKey(), each.getValue());
                }
            }
            json.writeEndObject();
        } catch (IOException e) {
            throw new UncheckedIOException(e); // a string has no errors
        }
        return text.toString();
    }

    /** Returns a list of objects. */
    public static String of(Collection<Map<String, String>> objects) {
        return objects.stream().map(FlatJson::of).collect(Collectors.joining(",", "[", "]"));
    }

    /** @throws IOException if it is no object with texts only */
    public static Map<String, String> read(byte[] text) throws IOException {
        Map<String, String> members = new LinkedHashMap<>();
        try (JsonParser json = JSON.createParser(text)) {
            if (json.nextToken() != JsonToken.START_OBJECT) {
                throw new IOException("expected a JSON object");
            }
            while (json.nextToken() == JsonToken.FIELD_NAME) {
                String name = json.currentName();
                if (json.nextToken() != JsonToken.VALUE_STRING) {
                    throw new IOException("\"" + name + "\": expected a text");
                }
                members.put(name, json.getText());
            }
        }
        return members;
    }

    /** Reads a file with an object in each line; returns none if it does not exist. */
    public static List<Map<String, String>> readLines(Path file) throws IOException {
        List<Map<String, String>> objects = new ArrayList<>();
        if (!Files.exists(file)) {
            return objects;
        }
        int number = 0;
        for (String line : Files.readAllLines(file)) {
            number++;
            try {
                if (!line.isBlank()) {
                    objects.add(read(line.getBytes(StandardCharsets.UTF_8)));
                }
            } catch (IOException e) {
                throw new IOException(file + ":" + number + " is damaged: " + e.getMessage(), e);
            }
        }
        return objects;
    }

    /** Replaces a file at once; it survives a power failure when this returns. */
    public static void writeLines(Path file, Collection<Map<String, String>> objects) throws IOException {
        Path next = file.resolveSibling(file.getFileName() + ".new");
        String text = objects.stream().map(FlatJson::of).collect(Collectors.joining("\n"));
        Files.writeString(next, objects.isEmpty() ? "" : text + "\n");
        try (FileChannel written = FileChannel.open(next, StandardOpenOption.WRITE)) {
            written.force(true);
        }
        Files.move(next, file, StandardCopyOption.ATOMIC_MOVE, StandardCopyOption.REPLACE_EXISTING);
    }
}
