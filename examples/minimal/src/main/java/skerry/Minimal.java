package skerry;

import dev.graphema.Graphema;
import dev.graphema.Logger;
import java.io.IOException;

/** The shortest program: three lines make events readable on the screen. */
public final class Minimal {
    private static final Logger log = Logger.of(Minimal.class);

    public static void main(String[] arguments) throws IOException {
        try (Graphema graphema = Graphema.start()) {
            log.info("seat held", f -> f.put("sailing", "SK-204").put("passengers", 3));
            log.warn("deck nearly full", f -> f.put("free_m", 12.5));
        }
    }
}
