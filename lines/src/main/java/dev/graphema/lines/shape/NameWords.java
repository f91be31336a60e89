package dev.graphema.lines.shape;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/** Divides names of values into words, by case and punctuation: {@code severityText}, {@code log_level}, {@code trace.id}. */
final class NameWords {
    private NameWords() {}

    /** Returns the words in lower case. */
    static List<String> of(String name) {
        List<String> words = new ArrayList<>();
        StringBuilder word = new StringBuilder();
        for (int i = 0; i < name.length(); i++) {
            char c = name.charAt(i);
            if (!Character.isLetterOrDigit(c)) {
                end(word, words);
                continue;
            }
            boolean begins = Character.isUpperCase(c)
                    && i > 0
                    && (Character.isLowerCase(name.charAt(i - 1))
                            || i + 1 < name.length()
                                    && Character.isLowerCase(name.charAt(i + 1))
                                    && Character.isUpperCase(name.charAt(i - 1)));
            if (begins) {
                end(word, words);
            }
            word.append(c);
        }
        end(word, words);
        return words;
    }

    private static void end(StringBuilder word, List<String> words) {
        if (!word.isEmpty()) {
            words.add(word.toString().toLowerCase(Locale.ROOT));
            word.setLength(0);
        }
    }
}
