package dev.graphema.settings;

import java.util.function.UnaryOperator;

/**
 * Replaces {@code ${NAME}} and {@code ${NAME:-default}} in values of settings files. The replacements are not evaluated
 * again, and events are never evaluated.
 */
public final class Variables {
    private final UnaryOperator<String> lookup;

    /** @param lookup returns the value of a variable, or null if it is not set */
    Variables(UnaryOperator<String> lookup) {
        this.lookup = lookup;
    }

    /** Returns the variables of the environment and, for names that it does not have, the system properties. */
    public static Variables ofEnvironment() {
        return new Variables(SettingsSource::variable);
    }

    /**
     * Returns the text with all variables replaced.
     *
     * @throws IllegalArgumentException if a variable is not set and has no default, or is not closed
     */
    public String replaceIn(String text) {
        int open = text.indexOf("${");
        if (open < 0) {
            return text;
        }
        StringBuilder result = new StringBuilder();
        int copied = 0;
        while (open >= 0) {
            int close = text.indexOf('}', open);
            if (close < 0) {
                throw new IllegalArgumentException("\"" + text + "\" has a ${ without a }");
            }
            result.append(text, copied, open).append(value(text.substring(open + 2, close)));
            copied = close + 1;
            open = text.indexOf("${", copied);
        }
        return result.append(text, copied, text.length()).toString();
    }

    private String value(String variable) {
        int split = variable.indexOf(":-");
        String name = split < 0 ? variable : variable.substring(0, split);
        String value = lookup.apply(name);
        if (value != null) {
            return value;
        }
        if (split < 0) {
            throw new IllegalArgumentException("the variable " + name
                    + " is not set: expected it in the environment or as a system property, or a default as in ${"
                    + name
                    + ":-value}");
        }
        return variable.substring(split + 2);
    }
}
