package dev.graphema.benchmarks;

import dev.graphema.benchmarks.Setting.Feature;
import dev.graphema.event.Level;
import java.io.IOException;
import java.util.EnumSet;

/** A program that says one event, sees it written, and ends. */
final class FirstEvent {
    private FirstEvent() {}

    public static void main(String[] arguments) throws IOException {
        try (Setting setting = new Setting(EnumSet.of(Feature.REDACTION))) {
            setting.say(Level.INFO);
            setting.flush();
        }
    }
}
