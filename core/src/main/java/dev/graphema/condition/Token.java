package dev.graphema.condition;

/**
 * A token of a condition.
 *
 * @param text the word, the symbol, or the text between quotes
 * @param column the position, counted from 1
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

    /** Returns the token for an error message. */
    String shown() {
        return switch (type) {
            case END -> "the end";
            case QUOTED -> "the quoted text " + Literal.quoted(text);
            default -> "\"" + text + "\"";
        };
    }
}
