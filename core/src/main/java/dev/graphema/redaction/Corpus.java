package dev.graphema.redaction;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;

/**
 * Labelled texts to measure the quality of detectors: lines with the name of the detector, the secret and the text,
 * separated by tabs; {@code none} and an empty secret for a text without a secret. Lines that begin with {@code #} are
 * ignored.
 */
public final class Corpus {
    private static final String NONE = "none";

    private final List<Text> texts = new ArrayList<>();

    private record Text(String detector, String secret, String text) {
        /** Returns whether the finding overlaps the secret. */
        boolean isPartOfSecret(String found) {
            int at = text.indexOf(found);
            int begin = text.indexOf(secret);
            return !secret.isEmpty() && at < begin + secret.length() && begin < at + found.length();
        }
    }

    /**
     * The quality of the detectors.
     *
     * @param byDetector for each detector: found, missed, and wrongly found
     */
    public record Measured(int texts, Map<String, int[]> byDetector) {
        /** Returns the share of secrets that were found (recall); 1 if there were none. */
        public double recall(String detector) {
            int[] counts = byDetector.get(detector);
            return counts[0] + counts[1] == 0 ? 1 : (double) counts[0] / (counts[0] + counts[1]);
        }

        /**
         * Returns the share of findings that are secrets (precision), of all detectors together; 1 if there were none.
         */
        public double precision() {
            int right = 0;
            int wrong = 0;
            for (int[] counts : byDetector.values()) {
                right += counts[0];
                wrong += counts[2];
            }
            return right + wrong == 0 ? 1 : (double) right / (right + wrong);
        }

        /** Returns a table. */
        public List<String> lines() {
            List<String> lines = new ArrayList<>();
            lines.add("detector       found  missed  wrong  recall  precision");
            byDetector.forEach((name, counts) -> lines.add(String.format(
                    Locale.ROOT,
                    "%-14s %5d  %6d  %5d  %6.3f  %9.3f",
                    name,
                    counts[0],
                    counts[1],
                    counts[2],
                    recall(name),
                    counts[0] + counts[2] == 0 ? 1.0 : (double) counts[0] / (counts[0] + counts[2]))));
            lines.add(String.format(Locale.ROOT, "%d texts; precision of all together %.3f", texts, precision()));
            return lines;
        }
    }

    /**
     * Reads a file.
     *
     * @throws IOException if it cannot be read, or a line is invalid
     */
    public static Corpus read(Path file) throws IOException {
        Corpus corpus = new Corpus();
        int number = 0;
        for (String line : Files.readAllLines(file)) {
            number++;
            String[] parts = line.split("\t", -1);
            if (line.startsWith("#") || line.isBlank()) {
                continue;
            }
            boolean isKnown = parts.length == 3
                    && (parts[0].equals(NONE)
                            ? parts[1].isEmpty()
                            : Detectors.builtIn().contains(parts[0]));
            if (!isKnown || !parts[2].contains(parts[1])) {
                throw new IOException(file + ":" + number
                        + ": expected a detector or none, the secret, and a text with it, with" + " tabs between");
            }
            corpus.texts.add(new Text(parts[0], parts[1], parts[2]));
        }
        return corpus;
    }

    /** Measures each built-in detector. */
    public Measured measure() {
        Map<String, int[]> byDetector = new LinkedHashMap<>();
        for (String name : Detectors.builtIn()) {
            Redactor redactor = new Redactor(List.of(Detectors.named(name)));
            int[] counts = new int[3];
            for (Text text : texts) {
                List<String> found = new ArrayList<>();
                redactor.redact(text.text(), hit -> found.add(hit.secret()));
                boolean isExpected = text.detector().equals(name);
                boolean isFound = found.remove(text.secret()) && isExpected;
                counts[0] += isFound ? 1 : 0;
                counts[1] += isExpected && !isFound ? 1 : 0;
                // What one detector finds of another's secret hides that, too, and is no mistake.
                found.removeIf(text::isPartOfSecret);
                counts[2] += found.size();
            }
            byDetector.put(name, counts);
        }
        return new Measured(texts.size(), byDetector);
    }
}
