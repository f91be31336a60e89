package dev.graphema.condition;

/** The operators of comparisons with a literal. */
public enum Operator {
    EQUAL("="),
    NOT_EQUAL("!="),
    LESS("<"),
    AT_MOST("<="),
    MORE(">"),
    AT_LEAST(">="),
    /** The text begins with the literal. */
    STARTS("starts"),
    /** The text ends with the literal. */
    ENDS("ends"),
    /** The text contains the literal, ignoring case. */
    HAS("has"),
    /** A part of the text matches the regular expression (RE2 syntax, linear time). */
    MATCHES("matches"),
    /** The complete text matches, ignoring case: {@code *} matches any characters, {@code ?} one character. */
    LIKE("like"),
    /** The text contains each of the words, ignoring case and spelling mistakes. */
    NEAR("near");

    private final String symbol;

    Operator(String symbol) {
        this.symbol = symbol;
    }

    boolean isOfText() {
        return ordinal() >= STARTS.ordinal();
    }

    static Operator of(String symbol) {
        for (Operator operator : values()) {
            if (operator.symbol.equalsIgnoreCase(symbol)) {
                return operator;
            }
        }
        return null;
    }

    /** Returns the operator in the condition language. */
    @Override
    public String toString() {
        return symbol;
    }
}
