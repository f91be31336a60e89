package dev.graphema.collector.http;

import java.util.Map;
import java.util.TreeMap;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.atomic.LongAdder;

/** Counts answered requests. Thread-safe. */
public final class Requests {
    private final Map<Counted, LongAdder> counts = new ConcurrentHashMap<>();

    /**
     * What is counted.
     *
     * @param request the method and path of an endpoint, or {@code other}
     * @param status the HTTP status
     */
    public record Counted(String request, int status) implements Comparable<Counted> {
        @Override
        public int compareTo(Counted other) {
            int order = request.compareTo(other.request);
            return order == 0 ? Integer.compare(status, other.status) : order;
        }
    }

    void count(String request, int status) {
        counts.computeIfAbsent(new Counted(request, status), key -> new LongAdder())
                .increment();
    }

    /** Returns the number of requests since the start. */
    public Map<Counted, Long> counts() {
        Map<Counted, Long> sums = new TreeMap<>();
        counts.forEach((key, count) -> sums.put(key, count.sum()));
        return sums;
    }
}
