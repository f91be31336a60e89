package dev.graphema.cli.arguments;

import dev.graphema.cli.arguments.Argument.Takes;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.function.Function;

/** A group of arguments in the help, declared in the order in which they are shown. */
public final class Group {
    /** The placeholder of a condition. */
    static final String CONDITION = "CONDITION";

    private final String heading;
    private final List<Argument<?>> words = new ArrayList<>();
    private final List<Argument<?>> options = new ArrayList<>();

    Group(String heading) {
        this.heading = heading;
    }

    String heading() {
        return heading;
    }

    List<Argument<?>> words() {
        return words;
    }

    List<Argument<?>> options() {
        return options;
    }

    /** Declares a required word. */
    public Argument<String> word(String label, String help) {
        return added(words, new Argument<>(label, label, help, Takes.ONE_NEEDED, null, text -> text));
    }

    /**
     * Declares an optional word.
     *
     * @param usual its default, or null
     * @param meaning parses a text; throws IllegalArgumentException with the expected input
     */
    public <T> Argument<T> optionalWord(String label, T usual, Function<String, T> meaning, String help) {
        return added(words, new Argument<>(label, label, help, Takes.ONE, usual, meaning));
    }

    /** Declares an optional condition, empty by default. */
    public Argument<String> condition(String help) {
        return optionalWord(CONDITION, "", text -> text, help);
    }

    /** Declares all further words; no other may follow. */
    public Argument<List<String>> words(String label, String help) {
        return added(words, list(label, label, help, Takes.ANY));
    }

    /** Declares all following words and options, unparsed; no other may follow. */
    public Argument<List<String>> rest(String label, String help) {
        return added(words, list(label, label, help, Takes.REST));
    }

    /** Declares an option without a value. */
    public Argument<Boolean> flag(String name, String help) {
        return added(options, new Argument<>(name, null, help, Takes.ONE, false, text -> true));
    }

    /** Declares an option with a text, null by default. */
    public Argument<String> text(String name, String label, String help) {
        return option(name, label, null, text -> text, help);
    }

    /** Declares an option that may be repeated. */
    public Argument<List<String>> texts(String name, String label, String help) {
        return added(options, list(name, label, help, Takes.ANY));
    }

    /** Declares an option with a non-negative whole number; the default may be null. */
    public Argument<Integer> count(String name, Integer usual, String help) {
        return option(name, "N", usual, Group::count, help);
    }

    /** Declares an option with a path, null by default. */
    public Argument<Path> path(String name, String label, String help) {
        return option(name, label, null, Path::of, help);
    }

    /** Declares an option with a constant, ignoring case. */
    public <E extends Enum<E>> Argument<E> choice(String name, String label, E usual, String help) {
        return option(name, label, usual, text -> constant(usual.getDeclaringClass(), text), help);
    }

    /**
     * Declares an option with a value.
     *
     * @param usual its default, or null
     * @param meaning parses a text; throws IllegalArgumentException with the expected input
     */
    public <T> Argument<T> option(String name, String label, T usual, Function<String, T> meaning, String help) {
        return added(options, new Argument<>(name, label, help, Takes.ONE, usual, meaning));
    }

    /** Returns the constant with this name, ignoring case. */
    public static <E extends Enum<E>> E constant(Class<E> type, String text) {
        List<String> names = new ArrayList<>();
        for (E constant : type.getEnumConstants()) {
            if (constant.name().equalsIgnoreCase(text)) {
                return constant;
            }
            names.add(constant.name().toLowerCase(Locale.ROOT));
        }
        throw new IllegalArgumentException("expected one of " + String.join(", ", names));
    }

    private static int count(String text) {
        try {
            int count = Integer.parseInt(text);
            if (count >= 0) {
                return count;
            }
        } catch (NumberFormatException e) {
            // as if it were negative
        }
        throw new IllegalArgumentException("expected a whole number from 0 to " + Integer.MAX_VALUE);
    }

    private static Argument<List<String>> list(String name, String label, String help, Takes takes) {
        List<String> texts = new ArrayList<>();
        return new Argument<>(name, label, help, takes, texts, text -> {
            texts.add(text);
            return texts;
        });
    }

    private static <T> Argument<T> added(List<Argument<?>> to, Argument<T> argument) {
        to.add(argument);
        return argument;
    }
}
