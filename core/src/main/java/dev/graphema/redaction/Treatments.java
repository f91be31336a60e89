package dev.graphema.redaction;

import dev.graphema.text.Nearest;
import java.util.List;

/**
 * Treatments in settings: {@code fixed}, {@code remove}, {@code mask}, {@code last 4}, {@code network}, {@code
 * pseudonym}, {@code keep}.
 */
public final class Treatments {
    private static final List<String> NAMES =
            List.of("fixed", "remove", "mask", "last", "network", "pseudonym", "keep");
    private static final int MOST_SHOWN = 8;

    private Treatments() {}

    /**
     * Returns the treatment of this text.
     *
     * @param pseudonyms those with the key of the settings; null if there is no key
     * @throws IllegalArgumentException if there is no such treatment, or no key for pseudonyms
     */
    public static Treatment parse(String text, Pseudonyms pseudonyms) {
        String[] words = text.strip().split("\\s+");
        boolean alone = words.length == 1;
        return switch (words[0]) {
            case "fixed" -> only(text, alone, Treatment.FIXED);
            case "remove" -> only(text, alone, Treatment.REMOVE);
            case "keep" -> only(text, alone, Treatment.KEEP);
            case "mask" -> only(text, alone, Treatment.MASK);
            case "network" -> only(text, alone, Treatment.NETWORK);
            case "last" -> last(text, words);
            case "pseudonym" -> {
                if (pseudonyms == null) {
                    throw new IllegalArgumentException(
                            "pseudonym needs a key: expected redaction: {pseudonyms: {id: k1, key: \"${NAME}\"}}");
                }
                yield only(text, alone, pseudonyms);
            }
            default ->
                throw new IllegalArgumentException(
                        "\"" + text + "\" is not a valid treatment: expected one of fixed, remove, mask,"
                                + " last 4, network, pseudonym, keep" + Nearest.hint(words[0], NAMES));
        };
    }

    private static Treatment only(String text, boolean alone, Treatment treatment) {
        if (!alone) {
            throw new IllegalArgumentException("\"" + text + "\" is not a valid treatment: expected "
                    + text.strip().split("\\s+")[0] + " alone");
        }
        return treatment;
    }

    private static Treatment last(String text, String[] words) {
        if (words.length != 2 || !words[1].matches("[1-" + MOST_SHOWN + "]")) {
            throw new IllegalArgumentException(
                    "\"" + text + "\" is not a valid treatment: expected last and a number from 1 to " + MOST_SHOWN);
        }
        return Treatment.last(Integer.parseInt(words[1]));
    }
}
