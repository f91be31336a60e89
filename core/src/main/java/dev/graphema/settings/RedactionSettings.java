package dev.graphema.settings;

import dev.graphema.redaction.Detectors;
import dev.graphema.redaction.KeyRules;
import dev.graphema.redaction.PatternDetector;
import dev.graphema.redaction.Pseudonyms;
import dev.graphema.redaction.Redactor;
import dev.graphema.redaction.Treatment;
import dev.graphema.redaction.Treatments;
import java.util.ArrayList;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * The settings of redaction.
 *
 * @param detectors the enabled built-in detectors
 * @param patterns custom patterns, by name
 * @param treatments treatments by name of the detector or pattern; {@code fixed} for all others
 * @param keys rules for fields by name; see {@link KeyRules}
 * @param sensitive treatments of values of {@linkplain dev.graphema.event.Key#sensitive sensitive keys}, by kind of
 *     secret; {@code fixed} for all others
 * @param pseudonymKeyId the id of the key for pseudonyms; null for none
 * @param pseudonymKey the key; null for none. Never shown
 */
public record RedactionSettings(
        List<String> detectors,
        Map<String, Pattern> patterns,
        Map<String, String> treatments,
        Map<String, String> keys,
        Map<String, String> sensitive,
        String pseudonymKeyId,
        String pseudonymKey) {
    /** The default detectors, with the treatment {@code fixed}. */
    public static final RedactionSettings USUAL =
            new RedactionSettings(Detectors.usual(), Map.of(), Map.of(), Map.of(), Map.of(), null, null);

    /**
     * A custom pattern.
     *
     * @param find in RE2 syntax
     * @param when a substring that a text must contain; empty for every text
     */
    public record Pattern(String find, String when) {}

    /** @throws IllegalArgumentException if a name, pattern, treatment or key is invalid */
    public RedactionSettings {
        detectors = List.copyOf(detectors);
        patterns = Collections.unmodifiableMap(new LinkedHashMap<>(patterns));
        treatments = Collections.unmodifiableMap(new LinkedHashMap<>(treatments));
        keys = Collections.unmodifiableMap(new LinkedHashMap<>(keys));
        sensitive = Map.copyOf(sensitive);
        detectors.forEach(Detectors::named);
        patterns.forEach((name, pattern) -> PatternDetector.of(name, pattern.find(), pattern.when()));
        Pseudonyms pseudonyms = pseudonymKey == null ? null : Pseudonyms.of(pseudonymKeyId, pseudonymKey);
        treatments.values().forEach(treatment -> Treatments.parse(treatment, pseudonyms));
        keys.values().forEach(treatment -> Treatments.parse(treatment, pseudonyms));
        sensitive.values().forEach(treatment -> Treatments.parse(treatment, pseudonyms));
        for (String name : treatments.keySet()) {
            if (!detectors.contains(name) && !patterns.containsKey(name)) {
                throw new IllegalArgumentException("a treatment is given for \"" + name
                        + "\", which is not detected: expected one of " + String.join(", ", detectors)
                        + (patterns.isEmpty() ? "" : ", " + String.join(", ", patterns.keySet())));
            }
        }
    }

    /** Returns the pseudonyms with the key, or null if there is none. */
    public Pseudonyms pseudonyms() {
        return pseudonymKey == null ? null : Pseudonyms.of(pseudonymKeyId, pseudonymKey);
    }

    /** Returns the redactor. Custom patterns run before built-in detectors. */
    public Redactor redactor() {
        Pseudonyms pseudonyms = pseudonyms();
        List<Redactor.Rule> rules = new ArrayList<>();
        patterns.forEach((name, pattern) -> rules.add(new Redactor.Rule(
                PatternDetector.of(name, pattern.find(), pattern.when()), treatment(name, pseudonyms))));
        for (String name : detectors) {
            rules.add(new Redactor.Rule(Detectors.named(name), treatment(name, pseudonyms)));
        }
        Map<String, Treatment> byKey = new LinkedHashMap<>();
        keys.forEach((name, treatment) -> byKey.put(name, Treatments.parse(treatment, pseudonyms)));
        Map<String, Treatment> byKind = new LinkedHashMap<>();
        sensitive.forEach((kind, treatment) -> byKind.put(kind, Treatments.parse(treatment, pseudonyms)));
        return new Redactor(rules, KeyRules.of(byKey), byKind);
    }

    private Treatment treatment(String name, Pseudonyms pseudonyms) {
        String given = treatments.get(name);
        return given == null ? Treatment.FIXED : Treatments.parse(given, pseudonyms);
    }

    /** Without the key. */
    @Override
    public String toString() {
        return "detectors " + detectors + ", patterns " + patterns.keySet() + ", keys " + keys + ", sensitive "
                + sensitive;
    }
}
