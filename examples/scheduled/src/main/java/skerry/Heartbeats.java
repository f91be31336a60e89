package skerry;

import dev.graphema.Context;
import dev.graphema.Graphema;
import dev.graphema.Logger;
import dev.graphema.Scope;
import java.io.IOException;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.Executors;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.TimeUnit;

/** Scheduled work: the tasks have the context of the code that scheduled them, and one that dies is reported. */
public final class Heartbeats {
    private static final Logger log = Logger.of(Heartbeats.class);
    private static final int BEATS = 3;

    public static void main(String[] arguments) throws IOException, InterruptedException {
        try (Graphema graphema = Graphema.start()) {
            ScheduledExecutorService scheduler = Context.carry(Executors.newSingleThreadScheduledExecutor());
            CountDownLatch beats = new CountDownLatch(BEATS);
            try (Scope scope = Context.open(f -> f.put("gate", "gate-2"))) {
                scheduler.scheduleAtFixedRate(() -> beat(beats), 0, 10, TimeUnit.MILLISECONDS);
            }
            beats.await();
            scheduler.shutdown();
            scheduler.awaitTermination(5, TimeUnit.SECONDS);
        }
    }

    private static void beat(CountDownLatch beats) {
        long left = beats.getCount() - 1;
        log.info("heartbeat", f -> f.put("left", left));
        beats.countDown();
        if (left == 0) {
            throw new IllegalStateException("the gate does not answer"); // ends the periodic task
        }
    }
}
