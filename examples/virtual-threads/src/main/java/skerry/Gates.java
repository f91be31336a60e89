package skerry;

import dev.graphema.Context;
import dev.graphema.Graphema;
import dev.graphema.Logger;
import dev.graphema.Scope;
import java.io.IOException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;

/** One virtual thread for each gate; each has the context of the code that started it. */
public final class Gates {
    private static final Logger log = Logger.of(Gates.class);

    public static void main(String[] arguments) throws IOException {
        try (Graphema graphema = Graphema.start();
                ExecutorService threads = Context.carry(Executors.newVirtualThreadPerTaskExecutor())) {
            for (String gate : new String[] {"gate-1", "gate-2"}) {
                try (Scope scope = Context.open(f -> f.put("gate", gate))) {
                    threads.submit(() -> log.info(
                            "gate open",
                            f -> f.put("virtual", Thread.currentThread().isVirtual())));
                }
            }
        }
    }
}
