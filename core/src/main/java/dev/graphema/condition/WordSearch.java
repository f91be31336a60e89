package dev.graphema.condition;

import dev.graphema.text.Nearest;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.function.Predicate;

/** Tests for words in a text. A word is a run of letters and digits; case is ignored. */
final class WordSearch {
    /** Words of this length or longer may have two mistakes, shorter ones one. */
    private static final int LONG_WORD = 6;

    /** Shorter words must match exactly. */
    private static final int SHORTEST_WITH_MISTAKE = 3;

    private WordSearch() {}

    static List<String> words(String text) {
        List<String> words = new ArrayList<>();
        int from = -1;
        for (int i = 0; i <= text.length(); i++) {
            boolean isInWord = i < text.length() && Character.isLetterOrDigit(text.charAt(i));
            if (isInWord && from < 0) {
                from = i;
            } else if (!isInWord && from >= 0) {
                words.add(text.substring(from, i).toLowerCase(Locale.ROOT));
                from = -1;
            }
        }
        return words;
    }

    /**
     * Tests whether a text contains each of the words, with up to two mistakes: a letter missing, added or wrong, or
     * two letters swapped.
     */
    static Predicate<String> near(String wanted) {
        List<String> words = words(wanted);
        return text -> {
            List<String> there = words(text);
            return words.stream().allMatch(word -> there.stream().anyMatch(each -> isNear(word, each)));
        };
    }

    private static boolean isNear(String wanted, String word) {
        if (wanted.equals(word)) {
            return true;
        }
        int forgiven = wanted.length() >= LONG_WORD ? 2 : wanted.length() >= SHORTEST_WITH_MISTAKE ? 1 : 0;
        return forgiven > 0
                && Math.abs(wanted.length() - word.length()) <= forgiven
                && Nearest.distance(wanted, word) <= forgiven;
    }

    /**
     * Tests whether a text contains all the words, in any order, with at most this many other words between the first
     * and the last of them.
     */
    static Predicate<String> within(String wanted, int others) {
        Set<String> distinct = new LinkedHashSet<>(words(wanted));
        List<String> words = List.copyOf(distinct);
        return text -> {
            List<String> there = words(text);
            int[] last = new int[words.size()];
            Arrays.fill(last, -1);
            for (int i = 0; i < there.size(); i++) {
                int which = words.indexOf(there.get(i));
                if (which >= 0) {
                    last[which] = i;
                    int first = Arrays.stream(last).min().orElse(-1);
                    if (first >= 0 && i - first + 1 - words.size() <= others) {
                        return true;
                    }
                }
            }
            return false;
        };
    }
}
