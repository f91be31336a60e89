package dev.graphema.examples.day;

import static dev.graphema.examples.day.Script.MILLI;
import static dev.graphema.examples.day.Script.SECOND;

import dev.graphema.event.Draft;
import dev.graphema.event.Level;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;

/**
 * The morning of 2026-05-15 from 06:00 to 08:30, the local time of Brackholm: a quiet hour, deck 2.4.1 on one of two
 * instances, a spike of coaches that find no lane, a second spike caused by the bank, and the rollback. The clock of
 * scanner gate-3 is 90 seconds ahead.
 */
public final class Day {
    private static final long BEGIN = Script.at("06:00");
    private static final long END = Script.at("08:30");
    private static final long UNSEEN = Script.at("06:22");
    private static final long RELEASED = Script.at("06:55");
    private static final long RUSH = Script.at("07:10");
    private static final long RUSH_OVER = Script.at("07:50");
    private static final long BANK_SLOW = Script.at("07:42");
    private static final long BANK_WELL = Script.at("07:45");
    private static final long TAKEN_BACK = Script.at("08:05");
    private static final int HEARTBEATS_SAMPLED = 20;

    private final Script script = new Script();
    private final DayLog booking = new DayLog("booking", "booking", 0);
    private final DayLog bank = new DayLog("bank", "bank", 0);
    private final DayLog notices = new DayLog("notices", "notices", 0);
    private final List<DayLog> decks = List.of(new DayLog("deck", "deck-1", 0), new DayLog("deck", "deck-2", 0));
    private final List<DayLog> gates = List.of(
            new DayLog("gate", "gate-1", 0),
            new DayLog("gate", "gate-2", 0),
            new DayLog("gate", "gate-3", 90 * SECOND));
    private int bookings = 46_800;

    private Day() {}

    /** Writes the logs of the day into the folder, one file per instance. */
    public static void write(Path folder) throws IOException {
        Day day = new Day();
        day.releases();
        day.heartbeats();
        day.crossings();
        day.boarding();
        Files.createDirectories(folder);
        List<DayLog> logs = new ArrayList<>(List.of(day.booking, day.bank, day.notices));
        logs.addAll(day.decks);
        logs.addAll(day.gates);
        for (DayLog log : logs) {
            log.write(folder);
        }
    }

    private void releases() {
        started(decks.get(0), BEGIN, "2.4.0");
        started(decks.get(1), BEGIN, "2.4.0");
        started(decks.get(1), RELEASED, "2.4.1");
        started(decks.get(1), TAKEN_BACK, "2.4.0");
    }

    private static void started(DayLog deck, long at, String release) {
        deck.add(
                at,
                new Draft()
                        .level(Level.INFO)
                        .logger("skerry.deck.DeckService")
                        .message("service started")
                        .thread("main")
                        .fields(f -> f.put("release", release)));
    }

    private void heartbeats() {
        for (DayLog gate : gates) {
            for (long at = BEGIN + script.millis(0, 20_000); at < END; at += SECOND * HEARTBEATS_SAMPLED) {
                int battery = script.number(40, 100);
                gate.add(
                        at,
                        new Draft()
                                .level(Level.INFO)
                                .logger("skerry.gate.scanners")
                                .message("heartbeat")
                                .thread("scanners")
                                .weight(HEARTBEATS_SAMPLED)
                                .fields(f -> f.put("gate", gate.instance()).put("battery", battery)));
            }
        }
    }

    private void crossings() {
        int sent = 0;
        boolean unseen = false;
        for (long at = BEGIN + 3 * SECOND; at < END; at += gap(at)) {
            boolean isRush = at >= RUSH && at < RUSH_OVER;
            String vehicle = script.chance(isRush ? 0.45 : 0.08) ? "coach" : script.chance(0.1) ? "lorry" : "car";
            DayLog deck = decks.get(sent++ % 2);
            // The same failure in the quiet hour, which nobody saw.
            boolean isUnseen = !unseen && at >= UNSEEN && deck == decks.get(1);
            unseen |= isUnseen;
            boolean isPlanted = at >= Script.at("07:31") && at - Script.at("07:31") < 6 * SECOND;
            new Crossing(this, script, "B%07d".formatted(bookings++), isUnseen ? "coach" : vehicle, at, deck)
                    .emit(waits(vehicle, deck, at, isUnseen), isPlanted);
        }
    }

    /** Returns the time until the next passenger. */
    private long gap(long at) {
        boolean isRush = at >= RUSH && at < RUSH_OVER;
        return isRush ? script.millis(2_000, 6_000) : script.millis(8_000, 24_000);
    }

    /** Returns how long a lane is waited for, in milliseconds: 250 is too long. */
    private int waits(String vehicle, DayLog deck, long at, boolean isUnseen) {
        boolean isNew = deck == decks.get(1) && at >= RELEASED && at < TAKEN_BACK;
        if (isUnseen) {
            return 250;
        }
        if (!isNew || !vehicle.equals("coach") || at < RUSH || at >= RUSH_OVER) {
            return script.number(0, 6);
        }
        double into = (double) (at - RUSH) / (RUSH_OVER - RUSH);
        return script.chance(0.25 + into * 0.5) ? 250 : script.number(20, 60 + (int) (150 * into));
    }

    /** Scans passes; the work of the scanner with the wrong clock seems to begin after its call. */
    private void boarding() {
        for (long at = Script.at("07:55"); at < END; at += script.millis(4_000, 12_000)) {
            DayLog gate = gates.get(script.number(0, 3));
            String pass = "P%06d".formatted(script.number(0, 1_000_000));
            Span scan = Span.root(gate, script, at, f -> f.put("sailing", "SK-204"));
            long asked = at + script.millis(2, 6);
            Span check = scan.part(booking, asked);
            long answered = asked + script.millis(3, 12);
            check.end(
                    answered,
                    Level.INFO,
                    "skerry.service.Service",
                    "request",
                    null,
                    f -> f.put("method", "GET").put("path", "/passes/" + pass).put("status", 200));
            scan.end(
                    answered + 2 * MILLI,
                    Level.INFO,
                    "skerry.gate.GateService",
                    "scan pass",
                    null,
                    f -> f.put("pass", pass).put("gate", gate.instance()));
        }
    }

    DayLog booking() {
        return booking;
    }

    DayLog bank() {
        return bank;
    }

    DayLog notices() {
        return notices;
    }

    DayLog anyGate() {
        return gates.get(script.number(0, 2));
    }

    static boolean bankIsSlow(long at) {
        return at >= BANK_SLOW && at < BANK_WELL;
    }

    static String release(DayLog deck, long at) {
        return deck.instance().equals("deck-2") && at >= RELEASED && at < TAKEN_BACK ? "2.4.1" : "2.4.0";
    }
}
