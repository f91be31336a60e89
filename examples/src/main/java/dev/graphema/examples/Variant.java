package dev.graphema.examples;

import dev.graphema.cli.output.Console;
import java.io.IOException;
import java.nio.file.Path;

/** A further destination of events. Closing it stops it. */
interface Variant extends AutoCloseable {
    /** The names for the command. */
    enum Name {
        FILES,
        POSTGRESQL,
        OTLP,
        COLLECTOR,
        KAFKA
    }

    /** Only files. */
    Variant FILES = new Variant() {
        @Override
        public String settings(String settings) {
            return settings;
        }

        @Override
        public boolean report(Console console, Path logs) {
            return true;
        }

        @Override
        public void close() {
            // nothing was started
        }
    };

    static Variant start(Name name, Path folder) throws IOException {
        return switch (name) {
            case FILES -> FILES;
            case POSTGRESQL -> DatabaseVariant.start(folder);
            case OTLP -> OtlpVariant.start();
            case COLLECTOR -> CollectorVariant.start(folder);
            case KAFKA -> KafkaVariant.start(folder);
        };
    }

    /** Returns the settings of a service with the further sink and its route. */
    String settings(String settings);

    /**
     * Reports the events that arrived. Called after the services have ended.
     *
     * @return whether none is missing
     */
    boolean report(Console console, Path logs) throws IOException;

    @Override
    void close() throws IOException;

    /** Adds a sink that receives the same events as the file. */
    static String withSink(String settings, String name, String sink) {
        String spool = "\nspool: {path: \"${SKERRY_FOLDER:-.}/spool/{instance}\"}";
        return settings.replace("\nsinks:\n", spool + "\nsinks:\n  " + name + ": " + sink + "\n")
                .replace("{to: log}", "{to: [log, " + name + "]}");
    }
}
