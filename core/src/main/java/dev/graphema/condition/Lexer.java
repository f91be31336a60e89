package dev.graphema.condition;

import java.util.ArrayList;
import java.util.List;

/** Splits the text of a condition into words, quoted texts and symbols. */
final class Lexer {
    private static final String SYMBOL_CHARACTERS = "=!<>(),";

    private final String source;
    private int at;

    private Lexer(String source) {
        this.source = source;
    }

    /** Returns the tokens; the last one has the type END. */
    static List<Token> tokens(String source) {
        Lexer lexer = new Lexer(source);
        List<Token> tokens = new ArrayList<>();
        Token token;
        do {
            token = lexer.next();
            tokens.add(token);
        } while (token.type() != Token.Type.END);
        return tokens;
    }

    private Token next() {
        while (at < source.length() && Character.isWhitespace(source.charAt(at))) {
            at++;
        }
        int column = at + 1;
        if (at == source.length()) {
            return new Token(Token.Type.END, "", column);
        }
        char c = source.charAt(at);
        if (c == '"') {
            return new Token(Token.Type.QUOTED, quoted(column), column);
        }
        return SYMBOL_CHARACTERS.indexOf(c) >= 0
                ? new Token(Token.Type.SYMBOL, symbol(column), column)
                : new Token(Token.Type.WORD, word(), column);
    }

    private String quoted(int column) {
        StringBuilder text = new StringBuilder();
        for (at++; at < source.length(); at++) {
            char c = source.charAt(at);
            if (c == '"') {
                at++;
                return text.toString();
            }
            boolean escapes = c == '\\' && at + 1 < source.length() && "\\\"".indexOf(source.charAt(at + 1)) >= 0;
            text.append(escapes ? source.charAt(++at) : c);
        }
        throw new ConditionException(source, column, "this quoted text has no end: expected a closing \"");
    }

    private String symbol(int column) {
        char first = source.charAt(at++);
        boolean orEqual = at < source.length() && source.charAt(at) == '=' && "!<>".indexOf(first) >= 0;
        if (orEqual) {
            at++;
            return first + "=";
        }
        if (first == '!') {
            throw new ConditionException(source, column, "a single \"!\" means nothing: expected != or the word not");
        }
        if (first == '=' && at < source.length() && source.charAt(at) == '=') {
            throw new ConditionException(source, column, "unknown comparison \"==\": expected =");
        }
        return String.valueOf(first);
    }

    private String word() {
        int from = at;
        while (at < source.length()) {
            char c = source.charAt(at);
            if (Character.isWhitespace(c) || c == '"' || SYMBOL_CHARACTERS.indexOf(c) >= 0) {
                break;
            }
            at++;
        }
        return source.substring(from, at);
    }
}
