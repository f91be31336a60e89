package dev.graphema.batch;

import dev.graphema.sink.RefusedException;
import java.io.IOException;

/** Finds the events that a receiver means when it refuses a whole batch, so that the others are not given up with them. */
public final class BatchDivision {
    private BatchDivision() {}

    /**
     * Sends the events; when all of them are refused together, each half by itself, and so on.
     *
     * @param attempt sends a batch, or refuses it whole by a {@link RefusedException}
     * @throws RefusedException when some were refused alone; it contains how many, and the others were accepted
     * @throws IOException as from the attempt: then all of them may come again
     */
    public static void send(EventBatch events, Transmitter attempt) throws IOException {
        try {
            attempt.send(events);
        } catch (RefusedException e) {
            if (events.size() == 1) {
                throw e;
            }
            int middle = events.size() / 2;
            long refused =
                    refused(events.part(0, middle), attempt) + refused(events.part(middle, events.size()), attempt);
            if (refused > 0) {
                throw new RefusedException(e.getMessage(), refused);
            }
        }
    }

    /** How many of them are refused. */
    private static long refused(EventBatch events, Transmitter attempt) throws IOException {
        try {
            send(events, attempt);
            return 0;
        } catch (RefusedException e) {
            return e.count();
        }
    }
}
