package dev.graphema.segments.store;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Random;
import java.util.Set;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A store on a disk that fails at random, with power failures: what was acknowledged is stored exactly once. */
class StoreFaultsTest {
    private static final int SCHEDULES = Integer.getInteger("schedules", 40);
    private static final long SEED = Long.getLong("seed", 1);
    private static final int STEPS = 60;

    @TempDir
    private Path parent;

    /** The events of a schedule: those that must be there, and those that may be. */
    private final Set<String> acknowledged = new HashSet<>();

    private final Set<String> attempted = new HashSet<>();
    private int number;

    /** Whether the rules of the store delete a part of the events. */
    private boolean deletesDetail;

    @Test
    void nothingThatWasAcknowledgedIsLostOrDoubled() throws IOException {
        int faults = 0;
        int powerFailures = 0;
        long events = 0;
        for (int i = 0; i < SCHEDULES; i++) {
            FaultyDisk disk = new FaultyDisk(SEED + i);
            Path folder = Files.createDirectory(parent.resolve("store" + i));
            deletesDetail = i % 2 == 0;
            if (deletesDetail) {
                Files.writeString(folder.resolve(StoreRules.FILE), "retention: {when: level <= debug, keep: 1s}\n");
            }
            powerFailures += run(folder, disk, new Random(SEED + i), "seed " + (SEED + i));
            faults += disk.faults();
            events += acknowledged.size();
        }
        System.out.println(SCHEDULES + " schedules of a store, seed " + SEED + ": " + faults + " faults, "
                + powerFailures + " power failures, " + events + " acknowledged events, none lost or doubled");
        assertTrue(faults > SCHEDULES && powerFailures > SCHEDULES && events > SCHEDULES);
    }

    private int run(Path folder, FaultyDisk disk, Random random, String schedule) throws IOException {
        acknowledged.clear();
        attempted.clear();
        number = 0;
        int powerFailures = 0;
        Store store = opened(folder, disk);
        for (int step = 0; step < STEPS; step++) {
            disk.faults(random.nextInt(3) == 0 ? 150 : 0);
            int what = random.nextInt(20);
            if (what < 13) {
                append(store, random);
            } else if (what < 16) {
                tidy(store);
            } else if (what < 18) {
                disk.powerOff();
                closeWithoutPower(store);
                disk.powerOn(folder);
                disk.faults(0);
                store = opened(folder, disk);
                powerFailures++;
                check(folder, schedule + ", step " + step);
            } else {
                disk.faults(0);
                store.close();
                store = opened(folder, disk);
                check(folder, schedule + ", step " + step);
            }
        }
        disk.faults(0);
        store.tidy();
        check(folder, schedule + ", at the end");
        store.close();
        return powerFailures;
    }

    private static Store opened(Path folder, FaultyDisk disk) throws IOException {
        return Store.open(
                folder,
                new StoreOptions(700, Duration.ofMinutes(10), Duration.ZERO, InstantSource.system(), problem -> {}),
                disk);
    }

    /** Releases the lock, as the end of the process does. */
    private static void closeWithoutPower(Store store) {
        try {
            store.close();
        } catch (IOException e) {
            // nothing can be written any more
        }
    }

    private void append(Store store, Random random) {
        List<String> events = IntStream.range(0, random.nextInt(5) + 1)
                .mapToObj(i -> "event " + number++)
                .toList();
        attempted.addAll(events);
        byte[] lines = String.join("", events.stream().map(this::line).toList()).getBytes(StandardCharsets.UTF_8);
        for (int attempt = 0; attempt < 3; attempt++) {
            try {
                store.append(lines);
                events.stream()
                        .filter(event -> !deletesDetail || !isDetail(event))
                        .forEach(acknowledged::add);
                return;
            } catch (IOException e) {
                // perhaps again
            }
        }
    }

    private static boolean isDetail(String event) {
        return event.hashCode() % 4 == 0;
    }

    /** The time is independent of the order, so that some events are days late. */
    private String line(String event) {
        int id = Integer.parseInt(event.substring(6));
        return "{\"time\":\"2026-05-%02dT06:00:00.000000000Z\",\"level\":\"%s\",\"message\":\"%s\",\"id\":\"00f067aa0ba902b7-%d\"}\n"
                .formatted(1 + id * 7 % 3, isDetail(event) ? "debug" : "info", event, id + 1);
    }

    private static void tidy(Store store) {
        try {
            store.tidy();
        } catch (IOException e) {
            // it is tried again
        }
    }

    private void check(Path folder, String when) throws IOException {
        List<String> found = new ArrayList<>(StoreTest.messages(StoreSource.at(folder)));
        Set<String> different = new HashSet<>(found);
        Set<String> lost = new HashSet<>(acknowledged);
        lost.removeAll(different);
        assertEquals(Set.of(), lost, when + ": lost");
        assertEquals(different.size(), found.size(), when + ": doubled");
        different.removeAll(attempted);
        assertEquals(Set.of(), different, when + ": never written");
    }
}
