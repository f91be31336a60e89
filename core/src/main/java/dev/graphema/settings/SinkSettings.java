package dev.graphema.settings;

import dev.graphema.event.Level;
import dev.graphema.format.FormatKind;
import dev.graphema.format.Formats;
import dev.graphema.option.Option;
import dev.graphema.option.Options;
import dev.graphema.sink.FileKind;
import dev.graphema.sink.Sink;
import dev.graphema.sink.SinkKind;
import dev.graphema.sink.Sinks;
import java.nio.file.Path;
import java.util.Objects;

/**
 * The settings of a sink: its kind, its own threshold, its format, and what the kind needs to know. Immutable; each
 * method returns a changed copy.
 *
 * <pre>{@code
 * SinkSettings.file(Path.of("logs/deck.jsonl")).level(Level.INFO).set(FileKind.ROTATE_AT, 10_000_000L)
 * }</pre>
 */
public final class SinkSettings {
    private final SinkKind kind;
    private final Sink given;
    private final Level threshold;
    private final boolean durable;
    private final FormatKind format;
    private final Options formatOptions;
    private final Options options;

    private SinkSettings(
            SinkKind kind,
            Sink given,
            Level threshold,
            boolean durable,
            FormatKind format,
            Options formatOptions,
            Options options) {
        this.kind = kind;
        this.given = given;
        this.threshold = threshold;
        this.durable = durable;
        this.format = format;
        this.formatOptions = formatOptions;
        this.options = options;
    }

    /** Returns a sink of a kind in its default format, with default options. */
    public static SinkSettings of(SinkKind kind) {
        FormatKind format = kind.usualFormat() == null ? null : Formats.kinds().named(kind.usualFormat());
        return new SinkSettings(kind, null, Level.TRACE, false, format, Options.NONE, Options.NONE);
    }

    /** Returns a sink for standard output in columns. */
    public static SinkSettings console() {
        return of(Sinks.CONSOLE);
    }

    /** Returns a sink for a file of JSON lines, limited in size. */
    public static SinkSettings file(Path path) {
        return of(Sinks.FILE).set(FileKind.PATH, path);
    }

    /** Returns settings for a custom sink, which is closed with the runtime. */
    public static SinkSettings given(Sink sink) {
        return new SinkSettings(
                null, Objects.requireNonNull(sink, "sink"), Level.TRACE, false, null, Options.NONE, Options.NONE);
    }

    /** Returns the sink with a threshold; trace by default. */
    public SinkSettings level(Level threshold) {
        return new SinkSettings(
                kind, given, Objects.requireNonNull(threshold, "threshold"), durable, format, formatOptions, options);
    }

    /**
     * Returns the sink with or without durability; false by default. Accepted events of a durable sink survive the
     * sudden end of the process in a memory-mapped file, which the next start reads. This costs the caller time for
     * copying.
     */
    public SinkSettings durable(boolean durable) {
        return new SinkSettings(kind, given, threshold, durable, format, formatOptions, options);
    }

    /**
     * Returns the sink with a format.
     *
     * @throws IllegalArgumentException if the format of the kind is fixed
     */
    public SinkSettings format(FormatKind format) {
        return format(format, Options.NONE);
    }

    /**
     * Returns the sink with a format and values of its options.
     *
     * @throws IllegalArgumentException if the format of the kind is fixed
     */
    public SinkSettings format(FormatKind format, Options formatOptions) {
        if (kind == null || kind.usualFormat() == null) {
            throw new IllegalArgumentException(
                    (kind == null ? "a sink of the program's own" : "a sink of the type " + kind.name())
                            + " has no format: its form is fixed");
        }
        return new SinkSettings(
                kind,
                given,
                threshold,
                durable,
                Objects.requireNonNull(format, "format"),
                Objects.requireNonNull(formatOptions, "formatOptions"),
                options);
    }

    /**
     * Returns the sink with a value of an option.
     *
     * @throws IllegalArgumentException if the kind has no such option
     */
    public <T> SinkSettings set(Option<T> option, T value) {
        if (kind == null || !kind.options().contains(option)) {
            throw new IllegalArgumentException("a sink of the type " + (kind == null ? "given" : kind.name())
                    + " has no " + option.name() + ": expected one of " + (kind == null ? "none" : kind.options()));
        }
        return with(options.with(option, value));
    }

    SinkSettings with(Options all) {
        return new SinkSettings(kind, given, threshold, durable, format, formatOptions, all);
    }

    /** Returns the kind; null for a custom sink. */
    public SinkKind kind() {
        return kind;
    }

    /** Returns the custom sink; null for one that is to be opened. */
    public Sink given() {
        return given;
    }

    /** Returns the threshold. */
    public Level threshold() {
        return threshold;
    }

    public boolean durable() {
        return durable;
    }

    /** Returns the format; null if it is fixed. */
    public FormatKind format() {
        return format;
    }

    public Options formatOptions() {
        return formatOptions;
    }

    public Options options() {
        return options;
    }

    /** Returns whether both are the same sink, possibly with different thresholds. */
    public boolean isSameSink(SinkSettings other) {
        return equals(other.level(threshold));
    }

    /** @throws IllegalArgumentException if a required option is missing, or a rule of the kind is violated */
    void check() {
        if (kind == null) {
            return;
        }
        for (Option<?> option : kind.options()) {
            if (option.isRequired() && !options.has(option)) {
                throw new IllegalArgumentException("no " + option.name() + ": expected " + option.expected());
            }
        }
        kind.check(options);
    }

    @Override
    public boolean equals(Object other) {
        return other instanceof SinkSettings that
                && kind == that.kind
                && given == that.given
                && threshold == that.threshold
                && durable == that.durable
                && format == that.format
                && formatOptions.equals(that.formatOptions)
                && options.equals(that.options);
    }

    @Override
    public int hashCode() {
        return Objects.hash(kind, given, threshold, durable, format, formatOptions, options);
    }

    @Override
    public String toString() {
        return (kind == null ? "given" : kind.name()) + " from " + threshold.text() + " " + options;
    }
}
