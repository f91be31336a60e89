package dev.graphema.condition;

/** How a value is compared with a literal. */
public enum Operator {
    EQUAL("="),
    NOT_EQUAL("!="),
    LESS("<"),
    AT_MOST("<="),
    MORE(">"),
    AT_LEAST(">="),
    /** The text begins so. */
    STARTS("starts"),
    /** The text ends so. */
    ENDS("ends"),
    /** The text contains this, in any case. */
    HAS("has"),
    /** A part of the text matches the regular expression (RE2 syntax, linear time). */
    MATCHES("matches"),
    /** The whole text looks so, in any case: {@code *} stands for any characters, {@code ?} for one. */
    LIKE("like"),
    /** Each of the words is in the text, with a mistake or two. */
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

    /** The operator as it stands in a condition. */
    @Override
    public String toString() {
        return symbol;
    }
}
