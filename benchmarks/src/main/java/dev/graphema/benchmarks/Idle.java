package dev.graphema.benchmarks;

import dev.graphema.benchmarks.Setting.Feature;
import dev.graphema.event.Level;
import java.io.IOException;
import java.lang.management.ManagementFactory;
import java.util.EnumSet;

/** A program that emits one event and prints the growth of the heap. */
final class Idle {
    private Idle() {}

    public static void main(String[] arguments) throws IOException, InterruptedException {
        long before = used();
        try (Setting setting = new Setting(EnumSet.of(Feature.REDACTION))) {
            setting.emit(Level.INFO);
            setting.flush();
            System.out.println(used() - before);
        }
    }

    private static long used() throws InterruptedException {
        for (int i = 0; i < 3; i++) {
            System.gc();
            Thread.sleep(200);
        }
        return ManagementFactory.getMemoryMXBean().getHeapMemoryUsage().getUsed();
    }
}
