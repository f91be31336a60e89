package dev.graphema.cli.arguments;

import java.util.function.Function;

/**
 * An option or word of a command, and its value after the command line was read.
 *
 * @param <T> the type of the value
 */
public final class Argument<T> {
    private final String name;
    private final String label;
    private final String help;
    private final Takes takes;
    private final Function<String, T> meaning;
    private T value;
    private boolean isGiven;

    /**
     * @param name {@code --limit}, or the placeholder of a word
     * @param label the placeholder of its value, or null if it has none
     * @param usual the default, or null
     * @param meaning parses a text; throws IllegalArgumentException with the expected input. The values of a list are
     *     added to it
     */
    Argument(String name, String label, String help, Takes takes, T usual, Function<String, T> meaning) {
        this.name = name;
        this.label = label;
        this.help = help;
        this.takes = takes;
        this.value = usual;
        this.meaning = meaning;
    }

    /** How often it may be given. */
    enum Takes {
        ONE,
        ONE_NEEDED,
        ANY,
        /** All following words, including options. */
        REST
    }

    /** Returns the value, or the default; null if there is neither. */
    public T value() {
        return value;
    }

    /** Returns whether it was given. */
    public boolean isGiven() {
        return isGiven;
    }

    boolean isFlag() {
        return label == null;
    }

    boolean isNeeded() {
        return takes == Takes.ONE_NEEDED;
    }

    boolean takesMany() {
        return takes == Takes.ANY || takes == Takes.REST;
    }

    boolean takesRest() {
        return takes == Takes.REST;
    }

    String name() {
        return name;
    }

    String label() {
        return label;
    }

    String help() {
        return help;
    }

    void give(String text) throws MisuseException {
        if (isGiven && !takesMany()) {
            throw new MisuseException(name + " is given twice: expected once");
        }
        try {
            value = meaning.apply(text);
        } catch (IllegalArgumentException e) {
            throw new MisuseException(name + " \"" + text + "\": " + e.getMessage());
        }
        isGiven = true;
    }
}
