package dev.graphema.settings;

import dev.graphema.event.Level;
import dev.graphema.sink.FileOptions;
import dev.graphema.sink.Sink;
import java.util.List;
import java.util.Locale;

/** A sink as it was asked for: its kind, its own threshold, and what the kind needs to know. */
public sealed interface SinkSettings {
    /** The least severe level that the sink gets. */
    Level threshold();

    /** The forms in which a sink can write. */
    enum FormatName {
        /** {@link dev.graphema.format.Columns}. */
        COLUMNS,
        /** {@link dev.graphema.format.JsonLines}. */
        JSON,
        /** {@link dev.graphema.format.KeyValue}. */
        KEY_VALUE,
        /** {@link dev.graphema.format.SyslogLines}. */
        SYSLOG,
        /** Columns where somebody looks, JSON where a machine reads. */
        AUTO;

        /** The name in settings. */
        public String text() {
            return name().toLowerCase(Locale.ROOT).replace('_', '-');
        }
    }

    /** The streams of a process. */
    enum Stream {
        OUTPUT,
        ERROR;

        /** The name in settings. */
        public String text() {
            return name().toLowerCase(Locale.ROOT);
        }
    }

    /** Standard output or standard error. */
    record Console(Level threshold, FormatName format, Stream stream) implements SinkSettings {}

    /** A file that is appended to, and those that were put aside. */
    record File(Level threshold, FormatName format, FileOptions options) implements SinkSettings {}

    /** A sink made by the program itself. */
    record Given(Level threshold, Sink sink) implements SinkSettings {}

    /** The kinds of sink that a settings file can name. */
    static List<String> kinds() {
        return List.of("console", "file");
    }
}
