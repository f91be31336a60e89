package dev.graphema.condition;

/**
 * A piece of a condition's text.
 *
 * @param text the word, the symbol, or what stood between the quotes
 * @param column where it begins, counted from 1
 */
record Token(Type type, String text, int column) {
    enum Type {
        WORD,
        QUOTED,
        SYMBOL,
        END
    }

    boolean is(String word) {
        return type != Type.QUOTED && text.equalsIgnoreCase(word);
    }

    /** How an error message calls it. */
    String shown() {
        return switch (type) {
            case END -> "the end";
            case QUOTED -> "the quoted text " + Literal.quoted(text);
            default -> "\"" + text + "\"";
        };
    }
}
