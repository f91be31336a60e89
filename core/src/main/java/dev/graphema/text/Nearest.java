package dev.graphema.text;

import java.util.Collection;
import java.util.List;
import java.util.Locale;

/** Finds the most similar word, for suggestions in messages. */
public final class Nearest {
    /** Longer words are not compared. */
    private static final int LONGEST = 64;

    private Nearest() {}

    /** Returns the candidate with the fewest differing letters, ignoring case, or null if none is similar. */
    public static String to(String word, Collection<String> candidates) {
        String lower = word.toLowerCase(Locale.ROOT);
        String nearest = null;
        int best = Math.max(1, Math.min(3, word.length() / 2)) + 1;
        for (String candidate : word.length() > LONGEST ? List.<String>of() : candidates) {
            int distance = distance(lower, candidate.toLowerCase(Locale.ROOT));
            if (distance < best) {
                best = distance;
                nearest = candidate;
            }
        }
        return nearest;
    }

    /** Returns {@code ; did you mean X?}, or an empty text. */
    public static String hint(String word, Collection<String> candidates) {
        String nearest = to(word, candidates);
        return nearest == null ? "" : "; did you mean " + nearest + "?";
    }

    /** Returns the number of insertions, deletions, replacements and swaps of neighbours between two words. */
    public static int distance(String a, String b) {
        int[][] steps = new int[a.length() + 1][b.length() + 1];
        for (int i = 0; i <= a.length(); i++) {
            for (int j = 0; j <= b.length(); j++) {
                if (i == 0 || j == 0) {
                    steps[i][j] = i + j;
                    continue;
                }
                int same = a.charAt(i - 1) == b.charAt(j - 1) ? 0 : 1;
                int best = Math.min(steps[i - 1][j - 1] + same, 1 + Math.min(steps[i - 1][j], steps[i][j - 1]));
                boolean swapped =
                        i > 1 && j > 1 && a.charAt(i - 1) == b.charAt(j - 2) && a.charAt(i - 2) == b.charAt(j - 1);
                steps[i][j] = swapped ? Math.min(best, steps[i - 2][j - 2] + 1) : best;
            }
        }
        return steps[a.length()][b.length()];
    }
}
