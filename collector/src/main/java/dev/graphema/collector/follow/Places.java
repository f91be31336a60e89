package dev.graphema.collector.follow;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonGenerator;
import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonToken;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.channels.Channels;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.util.LinkedHashMap;
import java.util.Map;

/** The places of all followed files, in the file {@value #FILE} of the store. For one thread. */
final class Places {
    private static final String FILE = "followed.json";
    private static final JsonFactory JSON = new JsonFactory();

    private final Path file;
    private final Map<String, Place> byLog = new LinkedHashMap<>();

    /** @throws IOException if the file cannot be read, or is damaged */
    Places(Path store) throws IOException {
        this.file = store.resolve(FILE);
        if (!Files.exists(file)) {
            return;
        }
        try (JsonParser json = JSON.createParser(file.toFile())) {
            while (json.nextToken() != null) {
                if (json.currentToken() == JsonToken.START_OBJECT) {
                    Place place = place(json);
                    byLog.put(place.log(), place);
                }
            }
        } catch (IOException | IllegalArgumentException e) {
            throw new IOException(
                    file + " is damaged: " + e.getMessage()
                            + "; delete it to read all followed files from the beginning, except what is stored already",
                    e);
        }
    }

    private static Place place(JsonParser json) throws IOException {
        String[] texts = new String[3];
        long[] numbers = new long[3];
        boolean isEnded = false;
        while (json.nextToken() == JsonToken.FIELD_NAME) {
            String name = json.currentName();
            json.nextToken();
            switch (name) {
                case "key" -> texts[0] = json.getText();
                case "log" -> texts[1] = json.getText();
                case "file" -> texts[2] = json.getText();
                case "head" -> numbers[0] = json.getLongValue();
                case "headBytes" -> numbers[1] = json.getLongValue();
                case "ended" -> isEnded = json.getBooleanValue();
                case "position" -> numbers[2] = json.getLongValue();
                default -> throw new IOException("\"" + name + "\" is not known");
            }
        }
        if (texts[0] == null || texts[1] == null || texts[2] == null) {
            throw new IOException("expected key, log and file");
        }
        return new Place(texts[0], numbers[0], (int) numbers[1], texts[1], texts[2], numbers[2], isEnded);
    }

    Map<String, Place> byLog() {
        return byLog;
    }

    void forget(String log) {
        byLog.remove(log);
    }

    /** Remembers a place, which survives a power failure when this returns. */
    void put(Place place) throws IOException {
        byLog.put(place.log(), place);
        Path next = file.resolveSibling(FILE + ".new");
        try (FileChannel channel = FileChannel.open(
                        next,
                        StandardOpenOption.CREATE,
                        StandardOpenOption.TRUNCATE_EXISTING,
                        StandardOpenOption.WRITE);
                OutputStream out = Channels.newOutputStream(channel);
                JsonGenerator json = JSON.createGenerator(out)) {
            json.writeStartArray();
            for (Place each : byLog.values()) {
                json.writeStartObject();
                json.writeStringField("key", each.key());
                json.writeNumberField("head", each.head());
                json.writeNumberField("headBytes", each.headBytes());
                json.writeStringField("log", each.log());
                json.writeStringField("file", each.file());
                json.writeNumberField("position", each.position());
                json.writeBooleanField("ended", each.isEnded());
                json.writeEndObject();
            }
            json.writeEndArray();
            json.flush();
            channel.force(true);
        }
        Files.move(next, file, StandardCopyOption.ATOMIC_MOVE, StandardCopyOption.REPLACE_EXISTING);
    }
}
