package dev.graphema.examples;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import dev.graphema.collector.settings.CollectorFile;
import dev.graphema.format.FormatKind;
import dev.graphema.format.Formats;
import dev.graphema.option.Option;
import dev.graphema.option.Selectable;
import dev.graphema.settings.SettingsException;
import dev.graphema.settings.SettingsFile;
import dev.graphema.settings.SettingsSchema;
import dev.graphema.sink.SinkKind;
import dev.graphema.sink.Sinks;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.StreamSupport;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.snakeyaml.engine.v2.api.Load;
import org.snakeyaml.engine.v2.api.LoadSettings;

/**
 * Compares the tables of docs/sinks.md with the descriptions of the sinks and formats. With the system property {@code
 * reference.write} set to true, it writes them there instead.
 */
class ReferenceTest {
    @TempDir
    Path folder;

    private static final Path PAGE = Path.of("..", "docs", "sinks.md");

    @Test
    void theTablesOfSinksAreTheDescriptionsOfSinks() throws IOException {
        StringBuilder tables = new StringBuilder();
        for (SinkKind kind : Sinks.kinds().all()) {
            heading(kind, tables);
            tables.append("| `level` | one of trace, debug, info, warn, error, fatal, off | the threshold of the sink"
                    + " | trace |\n");
            tables.append("| `durable` | true or false | whether accepted events survive a sudden end of the"
                    + " process | false |\n");
            if (kind.usualFormat() != null) {
                tables.append("| `format` | a format's name, or `{type: NAME, …}` | the format of events | ")
                        .append(kind.usualFormat())
                        .append(" |\n");
            }
            rows(kind.options(), tables);
        }
        check("sinks", tables.toString());
    }

    @Test
    void theTablesOfFormatsAreTheDescriptionsOfFormats() throws IOException {
        StringBuilder tables = new StringBuilder();
        for (FormatKind kind : Formats.kinds().all()) {
            if (kind.options().isEmpty()) {
                tables.append("\n### `")
                        .append(kind.name())
                        .append("`: ")
                        .append(kind.meaning())
                        .append("\n\nNothing to choose.\n");
            } else {
                heading(kind, tables);
                rows(kind.options(), tables);
            }
        }
        check("formats", tables.toString());
    }

    @Test
    void theSchemaDescribesTheSettings() throws IOException {
        Path file = Path.of("..", "docs", "graphema.schema.json");
        if (Boolean.getBoolean("reference.write")) {
            Files.writeString(file, SettingsSchema.json());
        }
        assertEquals(SettingsSchema.json(), Files.readString(file), "write it anew with -Dreference.write=true");
        assertTrue(new ObjectMapper().readTree(Files.readString(file)).has("properties"));
    }

    @Test
    void theSchemaOfTheCollectorDescribesItsSettings() throws IOException {
        Path file = Path.of("..", "docs", "collector.schema.json");
        String schema = CollectorFile.schema() + "\n";
        if (Boolean.getBoolean("reference.write")) {
            Files.writeString(file, schema);
        }
        assertEquals(schema, Files.readString(file), "write it anew with -Dreference.write=true");
    }

    @Test
    void everyNameThatTheReaderTakesIsInTheSchemaAndOnThePage() throws IOException {
        SettingsException unknown = assertThrows(
                SettingsException.class, () -> SettingsFile.read(Files.writeString(folder.resolve("x.yaml"), "x: 1")));
        String expected = unknown.getMessage().replaceAll("(?s).*expected one of ", "");
        Set<String> taken = new TreeSet<>(List.of(expected.split(", ")));
        Set<String> inSchema = new TreeSet<>();
        new ObjectMapper()
                .readTree(SettingsSchema.json())
                .get("properties")
                .fieldNames()
                .forEachRemaining(inSchema::add);
        assertEquals(taken, inSchema);
        String page = Files.readString(Path.of("..", "docs", "settings.md"));
        for (String name : taken) {
            assertTrue(page.contains("| `" + name), "docs/settings.md does not describe " + name);
        }
    }

    /** What the schema lets through the reader takes, and what the reader refuses for its names the schema does, too. */
    @Test
    void theSettingsOfTheExamplesKeepToTheSchema() throws IOException {
        JsonNode schema = new ObjectMapper().readTree(SettingsSchema.json());
        for (String name : List.of("booking", "deck", "gate")) {
            String yaml = Files.readString(Path.of("src", "main", "resources", "skerry", name + ".yaml"));
            Object settings = new Load(LoadSettings.builder().build()).loadFromString(yaml);
            assertTrue(keeps(schema, new ObjectMapper().valueToTree(settings)), name);
            assertTrue(
                    !keeps(
                            schema,
                            new ObjectMapper()
                                    .valueToTree(new Load(LoadSettings.builder().build())
                                            .loadFromString(yaml.replace("type: file", "type: fiel")))),
                    name);
        }
    }

    /** Evaluates the part of JSON Schema that is used. */
    private static boolean keeps(JsonNode schema, JsonNode value) {
        if (schema.has("anyOf")) {
            return StreamSupport.stream(schema.get("anyOf").spliterator(), false)
                    .anyMatch(each -> keeps(each, value));
        }
        if (schema.has("const") && !schema.get("const").equals(value)
                || schema.has("enum")
                        && StreamSupport.stream(schema.get("enum").spliterator(), false)
                                .noneMatch(value::equals)
                || schema.has("pattern")
                        && !(value.isTextual() && value.textValue().contains("${"))) {
            return false;
        }
        String type = schema.path("type").isTextual() ? schema.get("type").textValue() : "";
        if (type.equals("array")) {
            return value.isArray()
                    && StreamSupport.stream(value.spliterator(), false)
                            .allMatch(each -> keeps(schema.get("items"), each));
        }
        if (!type.equals("object")) {
            return !schema.path("type").isArray() || value.isValueNode();
        }
        boolean complete = StreamSupport.stream(schema.path("required").spliterator(), false)
                .allMatch(name -> value.has(name.textValue()));
        return value.isObject()
                && complete
                && value.properties().stream().allMatch(entry -> {
                    JsonNode property = schema.path("properties").path(entry.getKey());
                    JsonNode other = schema.path("additionalProperties");
                    return property.isMissingNode()
                            ? other.isObject() && keeps(other, entry.getValue())
                            : keeps(property, entry.getValue());
                });
    }

    private static void heading(Selectable kind, StringBuilder to) {
        to.append("\n### `").append(kind.name()).append("`: ").append(kind.meaning());
        to.append("\n\n| setting | value | meaning | default |\n| --- | --- | --- | --- |\n");
    }

    private static void rows(List<Option<?>> options, StringBuilder to) {
        for (Option<?> option : options) {
            String value = switch (option.shape()) {
                case SCALAR -> option.expected();
                case LIST -> "a list of: " + option.expected();
                case NAMES -> "names, each with " + option.expected();
                case TREE -> option.expected();
            };
            to.append("| `")
                    .append(option.name())
                    .append("` | ")
                    .append(value)
                    .append(" | ")
                    .append(option.meaning())
                    .append(option.isSecret() ? "; never shown" : "")
                    .append(" | ")
                    .append(option.standardText())
                    .append(" |\n");
            assertTrue(!option.meaning().isEmpty(), option.name() + " has no meaning");
        }
    }

    private static void check(String name, String expected) throws IOException {
        String begin = "<!-- " + name + ": from here to the end mark, written by ReferenceTest -->\n";
        String end = "\n<!-- end of " + name + " -->";
        String page = Files.readString(PAGE);
        int from = page.indexOf(begin) + begin.length();
        int to = page.indexOf(end);
        assertTrue(from >= begin.length() && to >= from, "docs/sinks.md has no marks for " + name);
        if (Boolean.getBoolean("reference.write")) {
            Files.writeString(PAGE, page.substring(0, from) + expected + page.substring(to));
        } else {
            assertEquals(expected, page.substring(from, to), "write it anew with -Dreference.write=true");
        }
    }
}
