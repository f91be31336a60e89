package dev.graphema.collector.ingest;

import dev.graphema.event.Draft;
import dev.graphema.redaction.Redactor;
import java.util.Map;
import java.util.TreeMap;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.atomic.LongAdder;

/**
 * Redacts what arrives, and counts what is replaced by rule and source, so that the source can be corrected: a secret should not
 * leave the process in which it is. Thread-safe.
 */
public final class Redaction {
    /** The most counters; the others are counted as those of an unknown source. */
    private static final int MOST_COUNTERS = 10_000;

    private static final String UNKNOWN = "unknown";

    private final Redactor redactor;
    private final Map<Counted, LongAdder> counts = new ConcurrentHashMap<>();

    public Redaction(Redactor redactor) {
        this.redactor = redactor;
    }

    /**
     * What is counted.
     *
     * @param rule the detector, pattern or rule of a field
     * @param source the sender
     */
    public record Counted(String rule, String source) implements Comparable<Counted> {
        @Override
        public int compareTo(Counted other) {
            int order = source.compareTo(other.source);
            return order == 0 ? rule.compareTo(other.rule) : order;
        }
    }

    void redact(Draft draft, Origin origin) {
        redactor.redact(draft, rule -> count(rule, origin));
    }

    String redact(String text, Origin origin) {
        return redactor.redact(text, hit -> count(hit.rule(), origin));
    }

    private void count(String rule, Origin origin) {
        Counted key = new Counted(rule, origin.source() == null ? UNKNOWN : origin.source());
        LongAdder count = counts.get(key);
        if (count == null) {
            Counted bounded = counts.size() < MOST_COUNTERS ? key : new Counted(rule, UNKNOWN);
            count = counts.computeIfAbsent(bounded, each -> new LongAdder());
        }
        count.increment();
    }

    /** Returns the number of replaced secrets since the start. */
    public Map<Counted, Long> counts() {
        Map<Counted, Long> sums = new TreeMap<>();
        counts.forEach((key, count) -> sums.put(key, count.sum()));
        return sums;
    }
}
