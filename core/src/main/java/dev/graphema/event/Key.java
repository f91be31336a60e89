package dev.graphema.event;

import java.math.BigDecimal;
import java.time.Duration;
import java.time.Instant;
import java.util.Objects;

/**
 * A field's name and type, declared once and used wherever the field is put, so that the same thing has the same name
 * and type everywhere. A value of another type does not compile.
 *
 * <pre>{@code
 * static final Key<String> LANE = Key.text("lane");
 * log.info("seat held", f -> f.put(LANE, "A3"));
 * }</pre>
 *
 * @param <T> the type of the values
 */
public final class Key<T> {
    private final String name;
    private final Class<T> type;
    private final String sensitivity;

    private Key(String name, Class<T> type, String sensitivity) {
        if (name.isBlank()) {
            throw new IllegalArgumentException("a key's name is empty; expected a word such as lane");
        }
        this.name = name;
        this.type = type;
        this.sensitivity = sensitivity;
    }

    public static Key<String> text(String name) {
        return of(name, String.class);
    }

    public static Key<Long> integer(String name) {
        return of(name, Long.class);
    }

    public static Key<Double> real(String name) {
        return of(name, Double.class);
    }

    public static Key<BigDecimal> decimal(String name) {
        return of(name, BigDecimal.class);
    }

    public static Key<Boolean> bool(String name) {
        return of(name, Boolean.class);
    }

    public static Key<Instant> time(String name) {
        return of(name, Instant.class);
    }

    public static Key<Duration> duration(String name) {
        return of(name, Duration.class);
    }

    /**
     * Creates a key for values of any other type, which are captured as {@link FieldWriter#put(String, Object)} does.
     */
    public static <T> Key<T> of(String name, Class<T> type) {
        return new Key<>(Objects.requireNonNull(name, "name"), Objects.requireNonNull(type, "type"), null);
    }

    /**
     * Returns the key for values that must not be visible. Events contain {@code [redacted mail]}, with the kind of
     * secret, or the replacement that {@code redaction: {sensitive: {mail: ...}}} in the settings defines; the values
     * are not captured.
     *
     * @param kind the kind of secret, for example {@code mail}
     */
    public Key<T> sensitive(String kind) {
        return new Key<>(name, type, Objects.requireNonNull(kind, "kind"));
    }

    /** Returns the kind of secret, or null if the values are not sensitive. */
    public String sensitivity() {
        return sensitivity;
    }

    public String name() {
        return name;
    }

    public Class<T> type() {
        return type;
    }

    @Override
    public String toString() {
        return name;
    }
}
