package dev.graphema.examples;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.format.FormatKind;
import dev.graphema.format.Formats;
import dev.graphema.option.Option;
import dev.graphema.option.Selectable;
import dev.graphema.sink.SinkKind;
import dev.graphema.sink.Sinks;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;

/**
 * Holds the tables of docs/sinks.md to what the sinks and formats themselves say. With the system property {@code
 * reference.write} set to true, it writes them there instead.
 */
class ReferenceTest {
    private static final Path PAGE = Path.of("..", "docs", "sinks.md");

    @Test
    void theTablesOfSinksAreWhatTheSinksSay() throws IOException {
        StringBuilder tables = new StringBuilder();
        for (SinkKind kind : Sinks.kinds().all()) {
            heading(kind, tables);
            tables.append("| `level` | one of trace, debug, info, warn, error, fatal, off | the least severe level that"
                    + " the sink gets | trace |\n");
            tables.append("| `durable` | true or false | whether what was handed over survives the sudden end of the"
                    + " process | false |\n");
            if (kind.usualFormat() != null) {
                tables.append("| `format` | a format's name, or `{type: NAME, …}` | how events look | ")
                        .append(kind.usualFormat())
                        .append(" |\n");
            }
            rows(kind.options(), tables);
        }
        check("sinks", tables.toString());
    }

    @Test
    void theTablesOfFormatsAreWhatTheFormatsSay() throws IOException {
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
