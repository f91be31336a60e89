package skerry.deck;

import dev.graphema.Logger;
import dev.graphema.Operation;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.locks.ReentrantLock;

/** The lanes of a vehicle deck. The lanes of a vehicle are locked while it is assigned, and then released. */
final class Lanes {
    private static final Logger log = Logger.of(Lanes.class);
    private static final long LONGEST_WAIT_MILLIS = 250;
    private static final long MEASURING_MILLIS = 25;

    private final Map<String, ReentrantLock> locks = new TreeMap<>();
    private final LockOrder order;

    Lanes(LockOrder order) {
        this.order = order;
        for (String lane : List.of("A1", "A2", "A3", "B1", "B2", "B3")) {
            locks.put(lane, new ReentrantLock());
        }
    }

    /**
     * Reserves lanes for a vehicle.
     *
     * @param booking the number in the reference of the booking
     * @return its first lane
     */
    String reserve(String vehicle, double length, int booking) throws LaneTimeoutException, InterruptedException {
        List<String> lanes = lanesFor(vehicle, booking);
        try (Operation operation = log.operation("reserve lanes")) {
            operation.put("vehicle", vehicle).put("length_m", length).put("lanes", lanes);
            Deque<ReentrantLock> held = new ArrayDeque<>();
            try {
                List<String> inOrder = order.of(lanes, booking);
                log.trace("lanes in order", f -> f.put("lanes", inOrder));
                for (String lane : inOrder) {
                    take(lane);
                    held.push(locks.get(lane));
                    TimeUnit.MILLISECONDS.sleep(MEASURING_MILLIS);
                }
                operation.succeed();
                return lanes.get(0);
            } catch (LaneTimeoutException | InterruptedException e) {
                operation.fail(e);
                throw e;
            } finally {
                held.forEach(ReentrantLock::unlock);
            }
        }
    }

    private void take(String lane) throws LaneTimeoutException, InterruptedException {
        long start = System.nanoTime();
        boolean taken = locks.get(lane).tryLock(LONGEST_WAIT_MILLIS, TimeUnit.MILLISECONDS);
        long waited = TimeUnit.NANOSECONDS.toMillis(System.nanoTime() - start);
        if (!taken) {
            log.warn("lane not free", f -> f.put("lane", lane).put("lock_wait_ms", waited));
            throw new LaneTimeoutException(lane, LONGEST_WAIT_MILLIS);
        }
        log.debug("lane taken", f -> f.put("lane", lane).put("lock_wait_ms", waited));
    }

    /** A coach needs two adjacent lanes, which it shares with the previous or next one; other vehicles need one. */
    private static List<String> lanesFor(String vehicle, int booking) {
        if (vehicle.equals("coach")) {
            return booking / 4 % 2 == 0 ? List.of("A1", "A2") : List.of("B1", "B2");
        }
        return List.of(booking % 2 == 0 ? "A3" : "B3");
    }
}
