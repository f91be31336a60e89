package dev.graphema.settings;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** Changes redaction settings. What is not changed remains. For one thread. */
public final class RedactionBuilder {
    private List<String> detectors;
    private final Map<String, RedactionSettings.Pattern> patterns;
    private final Map<String, String> treatments;
    private final Map<String, String> keys;
    private final Map<String, String> sensitive;
    private String pseudonymKeyId;
    private String pseudonymKey;

    RedactionBuilder(RedactionSettings from) {
        detectors = from.detectors();
        patterns = new LinkedHashMap<>(from.patterns());
        treatments = new LinkedHashMap<>(from.treatments());
        keys = new LinkedHashMap<>(from.keys());
        sensitive = new LinkedHashMap<>(from.sensitive());
        pseudonymKeyId = from.pseudonymKeyId();
        pseudonymKey = from.pseudonymKey();
    }

    /** Sets the enabled built-in detectors, such as {@code mail}. */
    public RedactionBuilder detect(String... names) {
        detectors = List.of(names);
        return this;
    }

    /** Adds a custom pattern in RE2 syntax; what it finds is redacted. */
    public RedactionBuilder pattern(String name, String find) {
        patterns.put(name, new RedactionSettings.Pattern(find, ""));
        return this;
    }

    /** Sets the treatment of what a detector or pattern finds, such as {@code pseudonym} or {@code mask 4}. */
    public RedactionBuilder treat(String name, String treatment) {
        treatments.put(name, treatment);
        return this;
    }

    /** Sets the treatment of fields with a name, such as {@code pin} or {@code passenger.*}. */
    public RedactionBuilder key(String name, String treatment) {
        keys.put(name, treatment);
        return this;
    }

    /** Sets the treatment of the values of sensitive keys of a kind. */
    public RedactionBuilder sensitive(String kind, String treatment) {
        sensitive.put(kind, treatment);
        return this;
    }

    /**
     * Sets the key of pseudonyms.
     *
     * @param id names the key in each pseudonym
     */
    public RedactionBuilder pseudonymKey(String id, String key) {
        pseudonymKeyId = id;
        pseudonymKey = key;
        return this;
    }

    /** @throws IllegalArgumentException if a name, pattern, treatment or key is invalid */
    RedactionSettings build() {
        return new RedactionSettings(detectors, patterns, treatments, keys, sensitive, pseudonymKeyId, pseudonymKey);
    }
}
