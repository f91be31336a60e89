package dev.graphema.sink;

import dev.graphema.event.Level;
import java.time.Instant;
import java.util.Map;

/**
 * The state of a sink at one point in time. Immutable.
 *
 * @param working whether it can write; false from a failure until the next success
 * @param since since when it works, or does not
 * @param error the last error with its time; null if there was none, or it is over. It can be of a single event, so a sink with
 *     an error may work
 * @param queuedBytes the size of the events that wait in its queue
 * @param backlog the events that wait on the disk
 * @param written the number of written events
 * @param lost the number of lost events by level
 */
public record SinkStatus(
        boolean working,
        Instant since,
        String error,
        long queuedBytes,
        Backlog backlog,
        long written,
        Map<Level, Long> lost) {
    public SinkStatus {
        lost = Map.copyOf(lost);
    }
}
