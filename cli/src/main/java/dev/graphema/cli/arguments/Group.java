package dev.graphema.cli.arguments;

import dev.graphema.cli.arguments.Argument.Takes;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.function.Function;

/** Arguments that stand together in the help. Each is told once, in the order in which it is shown. */
public final class Group {
    /** What stands for a condition. */
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

    /** A word that must be there. */
    public Argument<String> word(String label, String help) {
        return added(words, new Argument<>(label, label, help, Takes.ONE_NEEDED, null, text -> text));
    }

    /**
     * A word that may be left out.
     *
     * @param usual its value then, or null
     * @param meaning what its text means; throws IllegalArgumentException with what was expected
     */
    public <T> Argument<T> optionalWord(String label, T usual, Function<String, T> meaning, String help) {
        return added(words, new Argument<>(label, label, help, Takes.ONE, usual, meaning));
    }

    /** A condition as a word that may be left out, and is empty then. */
    public Argument<String> condition(String help) {
        return optionalWord(CONDITION, "", text -> text, help);
    }

    /** All further words; none may follow. */
    public Argument<List<String>> words(String label, String help) {
        return added(words, list(label, label, help, Takes.ANY));
    }

    /** All that follows, as it stands there, whatever it looks like; nothing may follow. */
    public Argument<List<String>> rest(String label, String help) {
        return added(words, list(label, label, help, Takes.REST));
    }

    /** An option without a value. */
    public Argument<Boolean> flag(String name, String help) {
        return added(options, new Argument<>(name, null, help, Takes.ONE, false, text -> true));
    }

    /** An option with a text, which is null when it is not given. */
    public Argument<String> text(String name, String label, String help) {
        return option(name, label, null, text -> text, help);
    }

    /** An option that may be given several times. */
    public Argument<List<String>> texts(String name, String label, String help) {
        return added(options, list(name, label, help, Takes.ANY));
    }

    /** An option with a whole number from 0 up; what is usual may be null. */
    public Argument<Integer> count(String name, Integer usual, String help) {
        return option(name, "N", usual, Group::count, help);
    }

    /** An option with the path of a file or folder, which is null when it is not given. */
    public Argument<Path> path(String name, String label, String help) {
        return option(name, label, null, Path::of, help);
    }

    /** An option with one of the constants, in letters of either case. */
    public <E extends Enum<E>> Argument<E> choice(String name, String label, E usual, String help) {
        return option(name, label, usual, text -> constant(usual.getDeclaringClass(), text), help);
    }

    /**
     * An option with a value.
     *
     * @param usual its value when it is not given, or null
     * @param meaning what its text means; throws IllegalArgumentException with what was expected
     */
    public <T> Argument<T> option(String name, String label, T usual, Function<String, T> meaning, String help) {
        return added(options, new Argument<>(name, label, help, Takes.ONE, usual, meaning));
    }

    /** The constant that a text names, in letters of either case. */
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
