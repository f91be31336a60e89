package dev.graphema.condition;

import com.google.re2j.PatternSyntaxException;
import dev.graphema.event.Attribute;
import dev.graphema.event.Level;
import dev.graphema.text.Nearest;
import dev.graphema.text.Times;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Function;
import java.util.function.Supplier;

/**
 * Makes the tree of a condition, by recursive descent over this grammar:
 *
 * <pre>{@code
 * condition  = [ or ]
 * or         = and { "or" and }
 * and        = factor { "and" factor }
 * factor     = "not" factor | "(" or ")" | phrase | comparison
 * phrase     = quoted text [ "within" number ]
 * comparison = name ( operator literal | "in" "(" literal { "," literal } ")"
 *                   | "between" literal "and" literal | "exists" | "missing" )
 * }</pre>
 */
final class Parser {
    /** Deeper nesting would exhaust the stack. */
    private static final int MAX_DEPTH = 100;

    private static final List<String> LEVELS = levels();

    private final String source;
    private final Supplier<ZoneId> zone;
    private final List<Token> tokens;
    private int at;
    private int depth;

    Parser(String source, Supplier<ZoneId> zone) {
        this.source = source;
        this.zone = zone;
        this.tokens = Lexer.tokens(source);
    }

    private static List<String> levels() {
        List<String> levels = new ArrayList<>();
        for (Level level : Level.values()) {
            if (level != Level.OFF) {
                levels.add(level.text());
            }
        }
        return levels;
    }

    Expression parse() {
        if (peek().type() == Token.Type.END) {
            return new Expression.Everything();
        }
        Expression expression = or();
        if (peek().type() != Token.Type.END) {
            throw expected("\"and\", \"or\" or the end", Keywords.JOINS);
        }
        return expression;
    }

    private Expression or() {
        List<Expression> parts = joined("or", this::and, part -> part instanceof Expression.Or or ? or.parts() : null);
        return parts.size() == 1 ? parts.get(0) : new Expression.Or(parts);
    }

    private Expression and() {
        List<Expression> parts =
                joined("and", this::factor, part -> part instanceof Expression.And and ? and.parts() : null);
        return parts.size() == 1 ? parts.get(0) : new Expression.And(parts);
    }

    /**
     * Parses parts that are joined by the word. Parentheses around parts joined by the same word are removed: the
     * meaning is the same, so every tree has one text.
     */
    private List<Expression> joined(
            String word, Supplier<Expression> part, Function<Expression, List<Expression>> partsWithin) {
        List<Expression> parts = new ArrayList<>();
        do {
            Expression next = part.get();
            List<Expression> within = partsWithin.apply(next);
            parts.addAll(within == null ? List.of(next) : within);
        } while (taken(word));
        return List.copyOf(parts);
    }

    private boolean taken(String word) {
        boolean found = peek().is(word);
        if (found) {
            next();
        }
        return found;
    }

    private Expression factor() {
        if (++depth > MAX_DEPTH) {
            throw problem(peek(), "the condition is nested more than " + MAX_DEPTH + " levels deep");
        }
        try {
            Token token = peek();
            if (token.is("not")) {
                next();
                return new Expression.Not(factor());
            }
            if (token.is("(")) {
                next();
                Expression inside = or();
                take(")", "\")\" to close the parenthesis at column " + token.column() + ", \"and\" or \"or\"");
                return inside;
            }
            if (token.type() == Token.Type.QUOTED) {
                return phrase();
            }
            return comparison();
        } finally {
            depth--;
        }
    }

    private Expression phrase() {
        Token phrase = next();
        if (phrase.text().isEmpty()) {
            throw problem(phrase, "an empty text occurs everywhere: expected at least one character");
        }
        if (startsComparison(peek())) {
            throw problem(phrase, "a name is written without quotes: expected " + phrase.text());
        }
        return taken(Keywords.WITHIN) ? nearby(phrase) : new Expression.Phrase(phrase.text());
    }

    private Expression nearby(Token phrase) {
        Token number = next();
        if (!number.text().matches("[0-9]{1,4}") || number.type() != Token.Type.WORD) {
            throw problem(
                    number, "expected the number of other words in between, 0 to 9999, but found " + number.shown());
        }
        int words = WordSearch.words(phrase.text()).size();
        if (words < 2) {
            throw problem(phrase, "within is about two words or more: expected a text such as \"deck refused\"");
        }
        return new Expression.Nearby(phrase.text(), Integer.parseInt(number.text()));
    }

    private Expression comparison() {
        Token word = peek();
        if (word.type() != Token.Type.WORD || Keywords.isKeyword(word.text())) {
            throw expected("a name, a quoted text, \"not\" or \"(\"", List.of());
        }
        next();
        Name name = Name.of(word.text());
        Token how = peek();
        if (how.is("exists") || how.is("missing")) {
            next();
            return new Expression.Presence(name, how.is("exists"));
        }
        if (how.is("in")) {
            next();
            return new Expression.OneOf(name, literals(name));
        }
        if (how.is("between")) {
            next();
            Literal low = literal(name);
            take("and", "\"and\" and the upper bound");
            return new Expression.Between(name, low, literal(name));
        }
        Operator operator = how.type() == Token.Type.QUOTED ? null : Operator.of(how.text());
        if (operator == null) {
            throw withoutComparison(word, how);
        }
        next();
        return new Expression.Comparison(name, operator, operator.isOfText() ? textLiteral(operator) : literal(name));
    }

    private ConditionException withoutComparison(Token word, Token how) {
        String meant = how.type() == Token.Type.WORD && !Keywords.isKeyword(how.text())
                ? Nearest.to(how.text(), Keywords.COMPARISONS)
                : null;
        if (meant != null) {
            return problem(how, "unknown comparison " + how.shown() + "; did you mean " + meant + "?");
        }
        return problem(
                how,
                "expected a comparison such as = after " + word.shown() + " but found " + how.shown()
                        + "; to search for a text, put it in quotes");
    }

    private List<Literal> literals(Name name) {
        take("(", "\"(\" and a list such as (coach, lorry)");
        List<Literal> literals = new ArrayList<>();
        do {
            literals.add(literal(name));
        } while (taken(","));
        take(")", "\",\" or \")\"");
        return List.copyOf(literals);
    }

    private Literal literal(Name name) {
        Token token = next();
        if (token.type() == Token.Type.SYMBOL || token.type() == Token.Type.END) {
            throw problem(token, "expected a value but found " + token.shown());
        }
        if (name.attribute() == Attribute.LEVEL) {
            Level level = Level.of(token.text());
            if (level == null || level == Level.OFF) {
                throw problem(
                        token,
                        token.shown() + " is not a valid level: expected one of " + String.join(", ", LEVELS)
                                + Nearest.hint(token.text(), LEVELS));
            }
            return Literal.level(level);
        }
        Literal literal =
                token.type() == Token.Type.QUOTED ? Literal.of(token.text()) : Literal.word(token.text(), zone);
        if (name.attribute() == Attribute.TIME && literal.time() == null) {
            Long time = Times.parse(token.text(), zone);
            if (time == null) {
                throw problem(
                        token,
                        token.shown()
                                + " is not a valid time: expected one such as 2026-05-15T07:31:02Z, 2026-05-15T07:31 or 2026-05-15");
            }
            return new Literal(token.text(), literal.quoted(), time);
        }
        return literal;
    }

    private Literal textLiteral(Operator operator) {
        Token token = next();
        if (token.type() == Token.Type.SYMBOL || token.type() == Token.Type.END) {
            throw problem(token, "expected a text after \"" + operator + "\" but found " + token.shown());
        }
        if (operator == Operator.NEAR && WordSearch.words(token.text()).isEmpty()) {
            throw problem(token, "expected words after \"near\" but found " + token.shown());
        }
        if (operator == Operator.MATCHES) {
            try {
                com.google.re2j.Pattern.compile(token.text());
            } catch (PatternSyntaxException e) {
                throw problem(token, "not a regular expression (RE2 syntax): " + e.getDescription());
            }
        }
        return new Literal(token.text(), token.type() == Token.Type.QUOTED, token.text());
    }

    private static boolean startsComparison(Token token) {
        return token.type() != Token.Type.QUOTED
                && Keywords.COMPARISONS.stream().anyMatch(token::is);
    }

    private Token peek() {
        return tokens.get(at);
    }

    private Token next() {
        Token token = tokens.get(at);
        if (token.type() != Token.Type.END) {
            at++;
        }
        return token;
    }

    private void take(String word, String what) {
        if (!peek().is(word)) {
            throw expected(what, List.of());
        }
        next();
    }

    private ConditionException expected(String what, List<String> words) {
        Token token = peek();
        String hint = token.type() == Token.Type.WORD ? Nearest.hint(token.text(), words) : "";
        return problem(token, "expected " + what + " but found " + token.shown() + hint);
    }

    private ConditionException problem(Token token, String text) {
        return new ConditionException(source, token.column(), text);
    }
}
