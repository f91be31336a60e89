package dev.graphema.collector.ingest;

import dev.graphema.collector.input.TopicRecord;
import dev.graphema.text.Hex;

/** Ids for the events of a record that have none. The same record has the same ids when it is read again. For one thread. */
final class RecordIds {
    /** Spreads the numbers of records and of events within a record over all numbers. */
    private static final long STEP = 0x9E3779B97F4A7C15L;

    private long next;

    RecordIds(TopicRecord record) {
        next = record.number();
    }

    /** Returns the run of the next event; its number within the run remains that of the event. */
    String next() {
        next += STEP;
        return Hex.digits(next);
    }

    /** Returns whether a line of Graphema JSON has an id, as far as this is seen without reading it: ids are before all objects. */
    static boolean hasId(byte[] line, int from, int to) {
        for (int i = from + 1; i < to - 5 && line[i] != '{'; i++) {
            if (line[i] == '"'
                    && line[i + 1] == 'i'
                    && line[i + 2] == 'd'
                    && line[i + 3] == '"'
                    && line[i + 4] == ':') {
                return true;
            }
        }
        return false;
    }
}
