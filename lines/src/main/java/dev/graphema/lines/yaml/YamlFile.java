package dev.graphema.lines.yaml;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.snakeyaml.engine.v2.api.LoadSettings;
import org.snakeyaml.engine.v2.composer.Composer;
import org.snakeyaml.engine.v2.exceptions.MarkedYamlEngineException;
import org.snakeyaml.engine.v2.exceptions.YamlEngineException;
import org.snakeyaml.engine.v2.nodes.MappingNode;
import org.snakeyaml.engine.v2.nodes.Node;
import org.snakeyaml.engine.v2.nodes.NodeTuple;
import org.snakeyaml.engine.v2.nodes.ScalarNode;
import org.snakeyaml.engine.v2.nodes.SequenceNode;
import org.snakeyaml.engine.v2.parser.ParserImpl;
import org.snakeyaml.engine.v2.scanner.StreamReader;

/** A small YAML file. All errors are an {@link IOException} whose message contains file, line and expectation. Immutable. */
public final class YamlFile {
    private static final int MOST_BYTES = 1 << 20;

    private final String name;
    private final Node document;

    private YamlFile(String name, Node document) {
        this.name = name;
        this.document = document;
    }

    /**
     * Reads a file.
     *
     * @throws IOException if it cannot be read, is too long, or is not YAML
     */
    public static YamlFile read(Path file) throws IOException {
        if (Files.size(file) > MOST_BYTES) {
            throw new IOException(file + " has more than " + MOST_BYTES + " bytes: expected some lines of YAML");
        }
        return of(file.toString(), Files.readString(file));
    }

    /**
     * Reads a text.
     *
     * @param name its name in messages
     * @throws IOException if it is not YAML
     */
    public static YamlFile of(String name, String text) throws IOException {
        try {
            LoadSettings settings = LoadSettings.builder().setLabel(name).build();
            Optional<Node> document =
                    new Composer(settings, new ParserImpl(settings, new StreamReader(settings, text))).getSingleNode();
            return new YamlFile(name, document.orElse(null));
        } catch (MarkedYamlEngineException e) {
            int line = e.getProblemMark().map(mark -> mark.getLine() + 1).orElse(1);
            throw new IOException(name + ":" + line + ": not YAML: " + e.getProblem(), e);
        } catch (YamlEngineException e) {
            throw new IOException(name + ": not YAML: " + e.getMessage(), e);
        } catch (StackOverflowError e) {
            throw new IOException(name + ": nested too deeply (expected: two or three levels)", e);
        }
    }

    /** Returns the members of the document; empty if the file is. */
    public List<NodeTuple> members(String expected) throws IOException {
        return document == null ? List.of() : members(document, expected);
    }

    /** Returns the members of a mapping. */
    public List<NodeTuple> members(Node node, String expected) throws IOException {
        if (node instanceof MappingNode mapping) {
            return mapping.getValue();
        }
        throw problem(node, "expected a mapping with " + expected);
    }

    /** Returns the elements of a list; a single value is a list of one. */
    public List<Node> elements(Node node) {
        return node instanceof SequenceNode list ? list.getValue() : List.of(node);
    }

    /** Returns the texts of a list; a single text is a list of one. */
    public List<String> texts(Node node) throws IOException {
        List<String> texts = new ArrayList<>();
        for (Node each : elements(node)) {
            texts.add(text(each));
        }
        return texts;
    }

    /** Returns a text. */
    public String text(Node node) throws IOException {
        if (node instanceof ScalarNode scalar) {
            return scalar.getValue();
        }
        throw problem(node, "expected a text");
    }

    /** Returns the error for a wrong place. */
    public IOException problem(Node node, String message) {
        int line = node.getStartMark().map(mark -> mark.getLine() + 1).orElse(1);
        return new IOException(name + ":" + line + ": " + message);
    }
}
