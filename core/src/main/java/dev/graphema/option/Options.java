package dev.graphema.option;

import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Objects;

/** Values of options. Immutable. */
public final class Options {
    /** Every option at its default. */
    public static final Options NONE = new Options(Map.of());

    private final Map<String, Object> values;

    private Options(Map<String, Object> values) {
        this.values = values;
    }

    /** The same with one more value. */
    public <T> Options with(Option<T> option, T value) {
        Objects.requireNonNull(value, option.name());
        Map<String, Object> more = new LinkedHashMap<>(values);
        more.put(option.name(), option.read(option.write(value)));
        return new Options(more);
    }

    /** The same with one more value, in the form in which it is written. */
    public <T> Options written(Option<T> option, Object value) {
        return with(option, option.read(value));
    }

    /** The option's value, or its default; null when it has neither. */
    @SuppressWarnings("unchecked") // only what the option itself read is put under its name
    public <T> T get(Option<T> option) {
        Object value = values.get(option.name());
        return value == null ? option.standard() : (T) value;
    }

    public boolean has(Option<?> option) {
        return values.containsKey(option.name());
    }

    /** The names of the options that were given a value, in that order. */
    public Iterable<String> names() {
        return values.keySet();
    }

    public boolean isEmpty() {
        return values.isEmpty();
    }

    @Override
    public boolean equals(Object other) {
        return other instanceof Options that && values.equals(that.values);
    }

    @Override
    public int hashCode() {
        return values.hashCode();
    }

    /** The names alone: a value may be a secret. */
    @Override
    public String toString() {
        return values.keySet().toString();
    }
}
