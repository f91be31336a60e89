package dev.graphema.segments.store;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonGenerator;
import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonToken;
import dev.graphema.segments.log.Disk;
import dev.graphema.segments.log.NewFile;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.DateTimeException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import java.util.zip.CRC32C;

/**
 * The file with the manifest: JSON lines and a last line with their CRC-32C, and the same once more, so that one damaged place
 * costs nothing.
 */
final class ManifestFile {
    static final String NAME = "manifest";

    private static final String UNFINISHED = NAME + ".unfinished";
    private static final int VERSION = 1;
    private static final JsonFactory JSON = new JsonFactory();

    private ManifestFile() {}

    /** Replaces the manifest of a store; the old one counts until this returns or fails. */
    static void write(Path folder, Manifest manifest, Disk disk) throws IOException {
        byte[] copy = copy(manifest);
        Path unfinished = folder.resolve(UNFINISHED);
        disk.delete(unfinished);
        try (NewFile file = disk.create(unfinished)) {
            file.write(ByteBuffer.wrap(copy));
            file.write(ByteBuffer.wrap(copy));
            file.force();
        }
        disk.rename(unfinished, folder.resolve(NAME));
    }

    private static byte[] copy(Manifest manifest) throws IOException {
        ByteArrayOutputStream bytes = new ByteArrayOutputStream();
        try (JsonGenerator json = JSON.createGenerator(bytes)) {
            json.setRootValueSeparator(null);
            json.writeStartObject();
            json.writeNumberField("store", VERSION);
            json.writeNumberField("number", manifest.number());
            json.writeNumberField("nextSegment", manifest.nextSegment());
            json.writeNumberField("firstLog", manifest.firstLog());
            end(json);
            for (Manifest.Entry each : manifest.segments()) {
                json.writeStartObject();
                json.writeStringField("segment", each.file());
                json.writeNumberField("rule", each.rule());
                json.writeStringField("rules", each.rules());
                range(json, each.from(), each.to(), each.lines());
                json.writeNumberField("bytes", each.bytes());
                end(json);
            }
            for (Manifest.Replaced each : manifest.replaced()) {
                json.writeStartObject();
                json.writeStringField("replaced", each.file());
                json.writeStringField("since", each.since().toString());
                end(json);
            }
            for (Manifest.Deletion each : manifest.deletions()) {
                json.writeStartObject();
                json.writeNumberField("deletion", each.number());
                json.writeStringField("at", each.at().toString());
                json.writeStringField("reason", each.reason());
                range(json, each.from(), each.to(), each.lines());
                end(json);
            }
        }
        bytes.write(lastLine(bytes.toByteArray()));
        return bytes.toByteArray();
    }

    private static void range(JsonGenerator json, long from, long to, long lines) throws IOException {
        json.writeNumberField("from", from);
        json.writeNumberField("to", to);
        json.writeNumberField("lines", lines);
    }

    private static void end(JsonGenerator json) throws IOException {
        json.writeEndObject();
        json.writeRaw('\n');
    }

    private static byte[] lastLine(byte[] lines) {
        CRC32C crc = new CRC32C();
        crc.update(lines);
        return ("{\"crc32c\":\"" + HexFormat.of().toHexDigits((int) crc.getValue()) + "\"}\n")
                .getBytes(StandardCharsets.US_ASCII);
    }

    /**
     * Reads the manifest of a store.
     *
     * @throws IOException if it cannot be read, or both copies are damaged
     */
    static Manifest read(Path folder) throws IOException {
        Path file = folder.resolve(NAME);
        List<byte[]> copies = copies(file);
        byte[] valid = copies.stream().filter(ManifestFile::isValid).findFirst().orElse(null);
        if (valid == null) {
            throw new IOException(file + " is damaged in both of its copies: restore the store from a backup,"
                    + " or search its segments one by one with --in " + folder.resolve("*.gseg"));
        }
        try {
            return parsed(valid, file);
        } catch (NumberFormatException | DateTimeException | NullPointerException e) {
            throw new IOException(file + " is not valid, although its checksum is: " + e.getMessage(), e);
        }
    }

    private static List<byte[]> copies(Path file) throws IOException {
        byte[] bytes = Files.readAllBytes(file);
        int half = bytes.length / 2;
        return List.of(Arrays.copyOf(bytes, half), Arrays.copyOfRange(bytes, half, bytes.length));
    }

    /** Returns whether both copies are valid. */
    static boolean hasTwoCopies(Path folder) throws IOException {
        return copies(folder.resolve(NAME)).stream().allMatch(ManifestFile::isValid);
    }

    private static boolean isValid(byte[] copy) {
        int length = copy.length - lastLine(new byte[0]).length;
        return length > 0
                && Arrays.equals(lastLine(Arrays.copyOf(copy, length)), Arrays.copyOfRange(copy, length, copy.length));
    }

    private static Manifest parsed(byte[] lines, Path file) throws IOException {
        List<Map<String, String>> objects = objects(lines);
        Map<String, String> head = objects.get(0);
        if (number(head, "store") != VERSION) {
            throw new IOException(file + " has version " + head.get("store")
                    + " of the form of stores; this version of Graphema reads version " + VERSION);
        }
        List<Manifest.Entry> segments = new ArrayList<>();
        List<Manifest.Replaced> replaced = new ArrayList<>();
        List<Manifest.Deletion> deletions = new ArrayList<>();
        for (Map<String, String> each : objects) {
            if (each.containsKey("segment")) {
                segments.add(new Manifest.Entry(
                        each.get("segment"),
                        (int) number(each, "rule"),
                        each.get("rules"),
                        number(each, "from"),
                        number(each, "to"),
                        number(each, "lines"),
                        number(each, "bytes")));
            } else if (each.containsKey("replaced")) {
                replaced.add(new Manifest.Replaced(each.get("replaced"), Instant.parse(each.get("since"))));
            } else if (each.containsKey("deletion")) {
                deletions.add(new Manifest.Deletion(
                        number(each, "deletion"),
                        Instant.parse(each.get("at")),
                        each.get("reason"),
                        number(each, "from"),
                        number(each, "to"),
                        number(each, "lines")));
            }
        }
        return new Manifest(
                number(head, "number"),
                number(head, "nextSegment"),
                number(head, "firstLog"),
                segments,
                replaced,
                deletions);
    }

    private static long number(Map<String, String> object, String name) {
        return Long.parseLong(object.get(name));
    }

    /** Returns the members of each object as texts. */
    private static List<Map<String, String>> objects(byte[] lines) throws IOException {
        List<Map<String, String>> objects = new ArrayList<>();
        try (JsonParser json = JSON.createParser(lines)) {
            while (json.nextToken() == JsonToken.START_OBJECT) {
                Map<String, String> members = new HashMap<>();
                while (json.nextToken() == JsonToken.FIELD_NAME) {
                    String name = json.currentName();
                    json.nextToken();
                    members.put(name, json.getText());
                }
                objects.add(members);
            }
        }
        return objects;
    }
}
