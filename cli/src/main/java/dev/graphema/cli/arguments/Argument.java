package dev.graphema.cli.arguments;

import java.util.function.Function;

/**
 * One option or word of a verb, and its value once the command line was read.
 *
 * @param <T> what its text means
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
     * @param name {@code --limit}, or of a word what stands for it
     * @param label what stands for its value, or null when it takes none
     * @param usual its value when it is not given, or null
     * @param meaning what a text means; throws IllegalArgumentException with what was expected. Of a list, its text is added to what is there.
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
        /** All that follows, options of others included. */
        REST
    }

    /** What was given, or else what is usual; null when neither is. */
    public T value() {
        return value;
    }

    /** Whether the command line has it. */
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
