package dev.graphema.redaction;

import dev.graphema.event.Draft;
import dev.graphema.event.Nearest;
import java.util.List;

/**
 * Replaces secrets in everything that an event says: message, thread, names and values of fields at any depth, messages of
 * failures. Safe to share between threads.
 *
 * <p>What is found is replaced by {@code [redacted payment-card]}. When a detector fails, the whole text is withheld:
 * nothing passes that was not looked at. Redacting twice changes nothing more.
 */
public final class Redactor {
    /** Hides nothing. */
    public static final Redactor NONE = new Redactor(List.of());

    static final String WITHHELD = "[withheld: redaction failed]";

    private static final List<Detector> READY =
            List.of(new PaymentCards(), new Ibans(), new MailAddresses(), new Tokens());

    private final Detector[] detectors;
    private final String[] replacements;
    private final int[] shortest;

    public Redactor(List<Detector> detectors) {
        this.detectors = detectors.toArray(new Detector[0]);
        this.replacements = detectors.stream()
                .map(detector -> "[redacted " + detector.name() + "]")
                .toArray(String[]::new);
        this.shortest = detectors.stream().mapToInt(Detector::shortest).toArray();
    }

    /** The names of the ready detectors. */
    public static List<String> readyDetectors() {
        return READY.stream().map(Detector::name).toList();
    }

    /**
     * The ready detector of that name.
     *
     * @throws IllegalArgumentException when there is none; the message lists those that there are
     */
    public static Detector readyDetector(String name) {
        return READY.stream()
                .filter(detector -> detector.name().equals(name))
                .findFirst()
                .orElseThrow(() -> new IllegalArgumentException("no detector is called \"" + name
                        + "\": expected one of " + String.join(", ", readyDetectors())
                        + Nearest.hint(name, readyDetectors())));
    }

    /** Redacts every text of the event. */
    public void redact(Draft draft) {
        if (detectors.length > 0) {
            draft.rewrite(this::redact);
        }
    }

    /** The text without its secrets; the same object when there are none. */
    public String redact(String text) {
        String redacted = text;
        for (int i = 0; i < detectors.length; i++) {
            if (redacted.length() < shortest[i]) {
                continue;
            }
            try {
                redacted = replaced(redacted, detectors[i], replacements[i]);
            } catch (RuntimeException e) {
                return WITHHELD;
            }
        }
        return redacted;
    }

    private static String replaced(String text, Detector detector, String replacement) {
        long range = detector.find(text, 0);
        if (range == Detector.NOTHING) {
            return text;
        }
        StringBuilder result = new StringBuilder(text.length());
        int copied = 0;
        while (range != Detector.NOTHING) {
            result.append(text, copied, (int) (range >>> 32)).append(replacement);
            copied = (int) range;
            range = detector.find(text, copied);
        }
        return result.append(text, copied, text.length()).toString();
    }
}
