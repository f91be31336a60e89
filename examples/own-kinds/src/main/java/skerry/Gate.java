package skerry;

import dev.graphema.Graphema;
import dev.graphema.Logger;
import java.io.IOException;
import java.nio.file.Path;

/** A program whose settings name a sink, a format and a detector of its own. */
public final class Gate {
    private static final Logger log = Logger.of(Gate.class);

    public static void main(String[] arguments) throws IOException {
        try (Graphema graphema = Graphema.start(Path.of("graphema.yaml"))) {
            log.info("vehicle boarded", f -> f.put("lane", "A3"));
            log.warn("ticket T-0047113-6 read by hand, not T-0047113-2");
        }
    }
}
