package dev.graphema.examples;

import dev.graphema.Context;
import dev.graphema.Graphema;
import dev.graphema.Logger;
import dev.graphema.Operation;
import dev.graphema.Scope;
import dev.graphema.event.Level;
import java.time.Duration;
import java.util.concurrent.TimeoutException;

/** The first program of a newcomer: only two settings, and its output on the screen. */
public final class FirstEvents {
    private static final Logger log = Logger.of(FirstEvents.class);

    private FirstEvents() {}

    public static void main(String[] arguments) {
        try (Graphema graphema = Graphema.build(
                settings -> settings.service("booking").instance("desk-1").level(Level.DEBUG))) {
            log.info("desk open", f -> f.put("sailings", 3).put("season", "spring"));
            log.warn("fare table is old", f -> f.put("fare_table", "2026-04").put("age", Duration.ofDays(38)));
            try (Scope scope = Context.open(f -> f.put("booking", "B0047113").put("sailing", "SK-204"));
                    Operation operation = log.operation("confirm crossing")) {
                log.debug("fare found", f -> f.put("amount", 84.5).put("currency", "EUR"));
                log.info(
                        "seat held",
                        f -> f.put("passengers", 3)
                                .put("vehicle", "coach")
                                .put(
                                        "remark",
                                        "window please,\nmail to passenger@mail.example, card 4111 1111 1111 1111"));
                try {
                    reserve();
                } catch (IllegalStateException e) {
                    log.error("deck space refused", e, f -> f.put("length_m", 13.5));
                }
                operation.succeed();
            }
        }
    }

    private static void reserve() {
        try {
            throw new TimeoutException("lane A3 was not free within 250 ms");
        } catch (TimeoutException e) {
            throw new IllegalStateException("no lane for a coach", e);
        }
    }
}
