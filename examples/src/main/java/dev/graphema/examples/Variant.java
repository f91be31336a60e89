package dev.graphema.examples;

import dev.graphema.cli.Console;
import java.io.IOException;
import java.nio.file.Path;

/** A further place to which the services send their events, beside their files. Closing it stops it. */
interface Variant extends AutoCloseable {
    /** The names that the command takes. */
    enum Name {
        FILES,
        POSTGRESQL,
        OTLP
    }

    /** Files alone. */
    Variant FILES = new Variant() {
        @Override
        public String settings(String settings) {
            return settings;
        }

        @Override
        public boolean tell(Console console, Path logs) {
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
            case OTLP -> CollectorVariant.start();
        };
    }

    /** The settings of a service, with the further sink and the route to it. */
    String settings(String settings);

    /** Tells what arrived there; true when nothing is missing. Called when the services have ended. */
    boolean tell(Console console, Path logs) throws IOException;

    @Override
    void close() throws IOException;

    /** Adds a sink and sends it what the file gets. */
    static String withSink(String settings, String name, String sink) {
        String spool = "\nspool: {path: \"${SKERRY_FOLDER:-.}/spool/{instance}\"}";
        return settings.replace("\nsinks:\n", spool + "\nsinks:\n  " + name + ": " + sink + "\n")
                .replace("{to: log}", "{to: [log, " + name + "]}");
    }
}
