package dev.graphema.option;

import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Objects;

/** Values of options. Immutable. */
public final class Options {
    /** All options have their defaults. */
    public static final Options NONE = new Options(Map.of(), Map.of());

    private final Map<String, Object> values;

    /** The original form of values with variables. */
    private final Map<String, Object> originals;

    private Options(Map<String, Object> values, Map<String, Object> originals) {
        this.values = values;
        this.originals = originals;
    }

    /** Returns the options with an additional value. */
    public <T> Options with(Option<T> option, T value) {
        Objects.requireNonNull(value, option.name());
        Map<String, Object> more = new LinkedHashMap<>(values);
        more.put(option.name(), option.read(option.write(value)));
        Map<String, Object> others = new LinkedHashMap<>(originals);
        others.remove(option.name());
        return new Options(more, others);
    }

    /** Returns the options with an additional value, given in the form of settings. */
    public <T> Options written(Option<T> option, Object value) {
        return with(option, option.read(value));
    }

    /**
     * As above, for a value in which variables were replaced.
     *
     * @param original its form before
     */
    public <T> Options written(Option<T> option, Object value, Object original) {
        Options with = written(option, value);
        if (value.equals(original)) {
            return with;
        }
        Map<String, Object> more = new LinkedHashMap<>(with.originals);
        more.put(option.name(), original);
        return new Options(with.values, more);
    }

    /**
     * Returns the value in the form of settings, with its variables.
     *
     * @return null if it has no value, or is a secret that was given without variables
     */
    public <T> Object toWrite(Option<T> option) {
        if (!values.containsKey(option.name())) {
            return null;
        }
        Object original = originals.get(option.name());
        return original != null ? original : option.isSecret() ? null : option.write(get(option));
    }

    /** Returns the value of the option, or its default; null if it has neither. */
    @SuppressWarnings("unchecked") // only what the option itself read is put under its name
    public <T> T get(Option<T> option) {
        Object value = values.get(option.name());
        return value == null ? option.standard() : (T) value;
    }

    public boolean has(Option<?> option) {
        return values.containsKey(option.name());
    }

    /** Returns the names of the options with a value, in their order. */
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

    /** Returns only the names, because a value may be a secret. */
    @Override
    public String toString() {
        return values.keySet().toString();
    }
}
