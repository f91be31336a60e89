package dev.graphema.option;

import dev.graphema.text.Durations;
import dev.graphema.text.Nearest;
import dev.graphema.text.Sizes;
import java.math.BigDecimal;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.time.DateTimeException;
import java.time.Duration;
import java.time.ZoneId;
import java.util.Arrays;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.function.Function;

/**
 * An option of a kind of sink or format. A dot in its name denotes a nested mapping: {@code rotate.at} is written as
 * {@code rotate: {at: 50MB}}. Immutable.
 *
 * @param <T> the type of the value
 */
public final class Option<T> {
    /** The form of a value in settings. */
    public enum Shape {
        /** A single value. */
        SCALAR,
        /** A list of single values; one value needs no brackets. */
        LIST,
        /** A mapping of user-defined names to single values. */
        NAMES,
        /** A mapping of user-defined names to single values or further mappings. */
        TREE
    }

    private static final int LONGEST_SHOWN = 80;

    private final String name;
    private final Shape shape;
    private final String expected;
    private final List<String> words;
    private final Function<Object, T> reader;
    private final Function<T, Object> written;
    private T standard;
    private String standardText;
    private boolean required;
    private boolean secret;
    private String meaning = "";

    private Option(
            String name,
            Shape shape,
            String expected,
            List<String> words,
            Function<Object, T> reader,
            Function<T, Object> written) {
        this.name = name;
        this.shape = shape;
        this.expected = expected;
        this.words = words;
        this.reader = reader;
        this.written = written;
    }

    private static <T> Option<T> scalar(
            String name, String expected, Function<String, T> reader, Function<T, String> text) {
        return new Option<>(
                name, Shape.SCALAR, expected, List.of(), given -> reader.apply((String) given), text::apply);
    }

    /** An option for any text that is not empty. */
    public static Option<String> text(String name, String expected) {
        return scalar(name, expected, text -> text.isBlank() ? null : text, text -> text);
    }

    /** An option for a file or folder. */
    public static Option<Path> path(String name, String expected) {
        return scalar(
                name,
                expected,
                text -> {
                    try {
                        return text.isBlank() ? null : Path.of(text);
                    } catch (InvalidPathException e) {
                        return null;
                    }
                },
                Path::toString);
    }

    /** An option for a boolean. */
    public static Option<Boolean> bool(String name) {
        return words(name, "true or false", List.of(true, false), value -> Boolean.toString(value));
    }

    /** An option for a whole number in a range. */
    public static Option<Integer> count(String name, int least, int most) {
        String expected = most == Integer.MAX_VALUE
                ? "a whole number, " + least + " or more"
                : "a whole number from " + least + " to " + most;
        return scalar(
                name,
                expected,
                text -> {
                    boolean digits = text.matches("[0-9]{1,9}");
                    int value = digits ? Integer.parseInt(text) : 0;
                    return digits && value >= least && value <= most ? value : null;
                },
                value -> Integer.toString(value));
    }

    /** An option for a size in bytes. */
    public static Option<Long> size(String name, long least) {
        return scalar(
                name,
                "a size such as 50MB, " + sizeText(least) + " or more",
                text -> {
                    BigDecimal bytes = Sizes.parse(text);
                    boolean fits = bytes != null
                            && bytes.compareTo(BigDecimal.valueOf(least)) >= 0
                            && bytes.compareTo(BigDecimal.valueOf(Long.MAX_VALUE)) <= 0;
                    return fits ? bytes.longValue() : null;
                },
                Option::sizeText);
    }

    /** An option for a positive duration. */
    public static Option<Duration> duration(String name) {
        return scalar(
                name,
                "a duration such as 15m or 2s",
                text -> {
                    Duration duration = Durations.parse(text);
                    return duration == null || duration.isNegative() || duration.isZero() ? null : duration;
                },
                duration -> duration.toNanos() % 1_000_000 == 0 ? millisText(duration) : duration.toNanos() + "ns");
    }

    /** An option for a time zone. */
    public static Option<ZoneId> zone(String name) {
        return scalar(
                name,
                "a time zone such as UTC or Europe/Berlin",
                text -> {
                    try {
                        return ZoneId.of(text);
                    } catch (DateTimeException e) {
                        return null;
                    }
                },
                ZoneId::getId);
    }

    /** An option for a constant of an enum, in lower case with hyphens. */
    public static <E extends Enum<E>> Option<E> word(String name, Class<E> type) {
        List<E> values = Arrays.asList(type.getEnumConstants());
        return words(
                name,
                "one of "
                        + String.join(", ", values.stream().map(Option::wordOf).toList()),
                values,
                Option::wordOf);
    }

    /** An option for a text that the reader parses; null, or an IllegalArgumentException, indicates an invalid text. */
    public static <T> Option<T> of(String name, String expected, Function<String, T> reader, Function<T, String> text) {
        return scalar(name, expected, reader, text);
    }

    /** An option for a list of such values. */
    public static <T> Option<List<T>> list(Option<T> item) {
        return new Option<>(
                item.name,
                Shape.LIST,
                item.expected,
                item.words,
                given -> ((List<?>) given).stream().map(item::read).toList(),
                values -> values.stream().map(item::write).toList());
    }

    /** An option for a mapping of user-defined names to such values. */
    public static <T> Option<Map<String, T>> names(Option<T> item) {
        return new Option<>(
                item.name,
                Shape.NAMES,
                item.expected,
                item.words,
                given -> mapped((Map<?, ?>) given, item::read),
                values -> mapped(values, item::write));
    }

    /** An option for nested mappings of user-defined names to texts or lists of such, which the kind interprets. */
    public static <T> Option<T> tree(
            String name, String expected, Function<Map<String, Object>, T> reader, Function<T, Object> written) {
        return new Option<>(
                name,
                Shape.TREE,
                expected,
                List.of(),
                given -> reader.apply(mapped((Map<?, ?>) given, x -> x)),
                written);
    }

    /** An option for one of some values, each of which has a word. */
    public static <T> Option<T> words(String name, String expected, List<T> values, Function<T, String> word) {
        List<String> words = values.stream().map(word).toList();
        return new Option<>(
                name,
                Shape.SCALAR,
                expected,
                words,
                given -> {
                    for (T value : values) {
                        if (word.apply(value).equalsIgnoreCase((String) given)) {
                            return value;
                        }
                    }
                    return null;
                },
                word::apply);
    }

    /** Returns the option with a default. */
    public Option<T> standard(T value) {
        return standard(value, value == null ? "none" : String.valueOf(written.apply(value)));
    }

    /** Returns the option with a default and its description. */
    public Option<T> standard(T value, String text) {
        Option<T> copy = copy();
        copy.standard = value;
        copy.standardText = text;
        return copy;
    }

    /** Returns the option as a required one. */
    public Option<T> required() {
        Option<T> copy = copy();
        copy.required = true;
        return copy;
    }

    /** Returns the option as a secret, whose value is never shown. */
    public Option<T> secret() {
        Option<T> copy = copy();
        copy.secret = true;
        return copy;
    }

    /** Returns the option with a description. */
    public Option<T> meaning(String text) {
        Option<T> copy = copy();
        copy.meaning = Objects.requireNonNull(text, "text");
        return copy;
    }

    private Option<T> copy() {
        Option<T> copy = new Option<>(name, shape, expected, words, reader, written);
        copy.standard = standard;
        copy.standardText = standardText;
        copy.required = required;
        copy.secret = secret;
        copy.meaning = meaning;
        return copy;
    }

    public String name() {
        return name;
    }

    public Shape shape() {
        return shape;
    }

    /** Returns the expected values, for messages. */
    public String expected() {
        return expected;
    }

    /** Returns the accepted words; empty if other values are accepted. */
    public List<String> words() {
        return words;
    }

    /** Returns the default value; null for none. */
    public T standard() {
        return standard;
    }

    /** Returns the description of the default. */
    public String standardText() {
        return required ? "required" : standardText == null ? "none" : standardText;
    }

    public boolean isRequired() {
        return required;
    }

    public boolean isSecret() {
        return secret;
    }

    public String meaning() {
        return meaning;
    }

    /**
     * Parses a value in settings: a String, a List of them, or a Map, depending on the shape.
     *
     * @throws IllegalArgumentException if the value is invalid; the message contains the expected values
     */
    public T read(Object given) {
        T value = reader.apply(given);
        if (value == null) {
            String shown = secret ? "the value of " + name : "\"" + shortened(given.toString()) + "\"";
            throw new IllegalArgumentException(shown + " is not a valid " + name.substring(name.lastIndexOf('.') + 1)
                    + ": expected " + expected + (words.isEmpty() ? "" : Nearest.hint(given.toString(), words)));
        }
        return value;
    }

    private static String shortened(String text) {
        return text.length() <= LONGEST_SHOWN ? text : text.substring(0, LONGEST_SHOWN) + "…";
    }

    /** Returns a value in the form that {@link #read} accepts. */
    public Object write(T value) {
        return written.apply(value);
    }

    @Override
    public String toString() {
        return name;
    }

    private static <A, V> Map<String, V> mapped(Map<?, A> given, Function<? super A, ? extends V> value) {
        Map<String, V> mapped = new LinkedHashMap<>();
        given.forEach((key, each) -> mapped.put(key.toString(), value.apply(each)));
        return Collections.unmodifiableMap(mapped);
    }

    private static String wordOf(Enum<?> value) {
        return value.name().toLowerCase(Locale.ROOT).replace('_', '-');
    }

    private static String sizeText(long bytes) {
        String[] units = {"TB", "GB", "MB", "KB"};
        for (int i = 0; i < units.length; i++) {
            long unit = 1L << 10 * (units.length - i);
            if (bytes >= unit && bytes % unit == 0) {
                return bytes / unit + units[i];
            }
        }
        return BigDecimal.valueOf(bytes).divide(BigDecimal.valueOf(1024)).toPlainString() + "KB";
    }

    private static String millisText(Duration duration) {
        long millis = duration.toMillis();
        long[] units = {86_400_000, 3_600_000, 60_000, 1_000};
        String[] names = {"d", "h", "m", "s"};
        for (int i = 0; i < units.length; i++) {
            if (millis % units[i] == 0) {
                return millis / units[i] + names[i];
            }
        }
        return millis + "ms";
    }
}
