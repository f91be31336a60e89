package dev.graphema.settings;

import dev.graphema.redaction.Detectors;
import dev.graphema.redaction.PatternDetector;
import dev.graphema.redaction.Pseudonyms;
import dev.graphema.redaction.Treatments;
import dev.graphema.text.Nearest;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Consumer;
import org.snakeyaml.engine.v2.nodes.Node;

/** Reads redaction from a settings file. */
final class RedactionReader {
    private final Yaml yaml;
    private List<String> detectors = Detectors.usual();
    private final Map<String, RedactionSettings.Pattern> patterns = new LinkedHashMap<>();
    private final Map<String, String> treatments = new LinkedHashMap<>();
    private final Map<String, String> keys = new LinkedHashMap<>();
    private final Map<String, String> sensitive = new LinkedHashMap<>();
    private final Map<Node, String> treated = new LinkedHashMap<>();
    private final Map<Node, String> written = new LinkedHashMap<>();
    private String keyId = "k1";
    private String key;

    RedactionReader(Yaml yaml) {
        this.yaml = yaml;
    }

    /** Passes on the redaction of the node, unless it has errors, which have been recorded. */
    void read(Node node, Consumer<RedactionSettings> reader) {
        int problemsBefore = yaml.problems().size();
        Map<String, Consumer<Node>> readers = new LinkedHashMap<>();
        readers.put("detect", this::detect);
        readers.put(
                "patterns", value -> yaml.entries(value, "patterns", (name, each) -> pattern(name.getValue(), each)));
        readers.put(
                "treat",
                value -> yaml.entries(value, "treat", (name, each) -> {
                    treated.put(name, name.getValue());
                    treatment(name.getValue(), each, treatments);
                }));
        readers.put(
                "keys", value -> yaml.entries(value, "keys", (name, each) -> treatment(name.getValue(), each, keys)));
        readers.put(
                "sensitive",
                value -> yaml.entries(value, "sensitive", (kind, each) -> treatment(kind.getValue(), each, sensitive)));
        readers.put("pseudonyms", this::pseudonyms);
        yaml.mapping(node, "redaction", readers);
        Pseudonyms pseudonyms = key == null ? null : Pseudonyms.of(keyId, key);
        // Only now is it known whether there is a key for pseudonyms, and what is looked for.
        written.forEach((place, text) -> checked(place, () -> Treatments.parse(text, pseudonyms)));
        treated.forEach((place, name) -> known(place, name));
        if (yaml.problems().size() == problemsBefore) {
            reader.accept(new RedactionSettings(
                    detectors, patterns, treatments, keys, sensitive, key == null ? null : keyId, key));
        }
    }

    private void detect(Node node) {
        List<String> names = new ArrayList<>();
        for (Node item : yaml.items(node)) {
            yaml.word(item, "detector", Detectors.all().names(), name -> name, names::add);
        }
        detectors = names;
    }

    private void pattern(String name, Node node) {
        String[] parts = {null, ""};
        Map<String, Consumer<Node>> readers = new LinkedHashMap<>();
        readers.put(
                "find",
                value -> yaml.scalar(value, "a pattern in RE2 syntax", text -> {
                    PatternDetector.of(name, text, "");
                    parts[0] = text;
                }));
        readers.put("when", value -> yaml.scalar(value, "a piece of text", text -> parts[1] = text));
        int problemsBefore = yaml.problems().size();
        yaml.mapping(node, "the pattern " + name, readers);
        if (parts[0] != null) {
            patterns.put(name, new RedactionSettings.Pattern(parts[0], parts[1]));
        } else if (yaml.problems().size() == problemsBefore) {
            yaml.problem(node, "the pattern " + name + " has no find: expected one such as find: \"B[0-9]{7}\"");
        }
    }

    private void treatment(String name, Node node, Map<String, String> into) {
        yaml.scalar(node, "a treatment such as fixed, remove, mask or last 4", text -> {
            written.put(node, text);
            into.put(name, text);
        });
    }

    private void pseudonyms(Node node) {
        Map<String, Consumer<Node>> readers = new LinkedHashMap<>();
        readers.put(
                "id",
                value -> yaml.scalar(value, "a name for the key", text -> {
                    Pseudonyms.of(text, "0123456789abcdef");
                    keyId = text;
                }));
        readers.put(
                "key",
                value -> yaml.scalar(value, "a key", text -> {
                    Pseudonyms.of("k1", text);
                    key = text;
                }));
        yaml.mapping(node, "pseudonyms", readers);
    }

    private void known(Node place, String name) {
        if (!detectors.contains(name) && !patterns.containsKey(name)) {
            List<String> names = new ArrayList<>(detectors);
            names.addAll(patterns.keySet());
            yaml.problem(
                    place,
                    "\"" + name + "\" is not detected: expected one of " + String.join(", ", names)
                            + Nearest.hint(name, names));
        }
    }

    private void checked(Node place, Runnable check) {
        try {
            check.run();
        } catch (IllegalArgumentException e) {
            yaml.problem(place, e.getMessage());
        }
    }
}
