package dev.graphema.segments.store;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.Duration;
import java.time.InstantSource;
import java.util.concurrent.atomic.AtomicInteger;

/** A program that writes a store until it is killed. It prints each number when its event is stored. */
final class StoreProgram {
    private static final int THREADS = 3;
    private static final int SMALL_LOG = 20_000;

    private StoreProgram() {}

    /** @param arguments the folder, and the first number */
    public static void main(String[] arguments) throws IOException {
        Store store = Store.open(
                Path.of(arguments[0]),
                new StoreOptions(
                        SMALL_LOG, Duration.ofMinutes(10), Duration.ZERO, InstantSource.system(), System.err::println));
        AtomicInteger next = new AtomicInteger(Integer.parseInt(arguments[1]));
        for (int i = 0; i < THREADS; i++) {
            new Thread(() -> write(store, next)).start();
        }
        while (true) {
            store.tidy();
        }
    }

    private static void write(Store store, AtomicInteger next) {
        while (true) {
            int number = next.getAndIncrement();
            try {
                store.append(line(number));
            } catch (IOException e) {
                throw new IllegalStateException(e);
            }
            // One write, so that a kill cuts off at most the last line.
            byte[] stored = (number + "\n").getBytes(StandardCharsets.US_ASCII);
            synchronized (System.out) {
                System.out.write(stored, 0, stored.length);
                System.out.flush();
            }
        }
    }

    /** Every tenth event is a detail, which the rules of the store delete. */
    private static byte[] line(int number) {
        return "{\"time\":\"2026-05-15T06:%02d:%02d.000000000Z\",\"level\":\"%s\",\"message\":\"%d\"}\n"
                .formatted(number / 60 % 60, number % 60, number % 10 == 0 ? "debug" : "info", number)
                .getBytes(StandardCharsets.UTF_8);
    }
}
