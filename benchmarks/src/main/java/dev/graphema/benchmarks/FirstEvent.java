package dev.graphema.benchmarks;

import dev.graphema.Graphema;
import dev.graphema.Logger;
import dev.graphema.settings.SinkSettings;
import java.nio.file.Path;
import java.time.Duration;

/** A program that emits one event, writes a byte when it is in the file in the given folder, and ends. */
final class FirstEvent {
    private FirstEvent() {}

    public static void main(String[] arguments) {
        Path folder = Path.of(arguments[0]);
        try (Graphema graphema = Graphema.build(settings -> settings.service("deck")
                .instance("deck-1")
                .sink("log", SinkSettings.file(folder.resolve("log.jsonl"))))) {
            Logger.named("skerry.deck.Lanes")
                    .info("lane taken", f -> f.put("lane", "A3").put("lock_wait_ms", 2));
            if (graphema.flush(Duration.ofSeconds(10))) {
                System.out.write('.');
                System.out.flush();
            }
        }
    }
}
