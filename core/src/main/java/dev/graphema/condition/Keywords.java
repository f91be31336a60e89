package dev.graphema.condition;

import java.util.List;
import java.util.Locale;

/** The keywords of the language, which cannot be used as bare names of fields. */
final class Keywords {
    static final List<String> COMPARISONS = List.of(
            "=", "!=", "<", "<=", ">", ">=", "in", "between", "starts", "ends", "has", "matches", "like", "near",
            "exists", "missing");

    /** The keyword after a phrase. */
    static final String WITHIN = "within";

    static final List<String> JOINS = List.of("and", "or");

    private Keywords() {}

    static boolean isKeyword(String word) {
        String lower = word.toLowerCase(Locale.ROOT);
        return JOINS.contains(lower) || lower.equals("not") || lower.equals(WITHIN) || COMPARISONS.contains(lower);
    }
}
