package dev.graphema.collector.permission;

import java.time.Duration;
import java.time.Instant;
import java.util.LinkedHashMap;
import java.util.Map;

/** Counts wrong tokens and passwords by address, so that nobody tries many of them. Thread-safe. */
final class FailedAttempts {
    private static final int MOST = 50;
    private static final Duration PERIOD = Duration.ofMinutes(1);
    private static final int MOST_ADDRESSES = 10_000;

    private final Map<String, Failures> byAddress = new LinkedHashMap<>() {
        private static final long serialVersionUID = 1;

        @Override
        protected boolean removeEldestEntry(Map.Entry<String, Failures> eldest) {
            return size() > MOST_ADDRESSES;
        }
    };

    private record Failures(Instant since, int count) {}

    /** Returns the seconds after which an address may try again; 0 for now. */
    synchronized int wait(String address, Instant now) {
        Failures failures = byAddress.get(address);
        if (failures == null || failures.count() < MOST) {
            return 0;
        }
        Duration left = Duration.between(now, failures.since().plus(PERIOD));
        if (left.isNegative() || left.isZero()) {
            byAddress.remove(address);
            return 0;
        }
        return (int) left.toSeconds() + 1;
    }

    synchronized void failed(String address, Instant now) {
        Failures known = byAddress.remove(address);
        boolean isNew = known == null || now.isAfter(known.since().plus(PERIOD));
        byAddress.put(address, isNew ? new Failures(now, 1) : new Failures(known.since(), known.count() + 1));
    }
}
