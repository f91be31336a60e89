package dev.graphema.pipeline;

import dev.graphema.event.Level;
import dev.graphema.sink.SinkHealth;
import java.util.Arrays;

/**
 * The events that were taken from a sink's queue and are neither written nor counted as lost, in their order: their levels
 * are remembered, because that is how losses are counted. Reports of losses are among them; they are no events of the
 * program, and not counted when they are lost themselves. Guarded by the worker.
 */
final class InFlight {
    private static final Level[] LEVELS = Level.values();
    private static final byte REPORT = -1;

    private byte[] levels = new byte[SinkWorker.BATCH + 1];
    private int size;

    void add(Level level) {
        add((byte) level.ordinal());
    }

    void addReport() {
        add(REPORT);
    }

    private void add(byte level) {
        if (size == levels.length) {
            levels = Arrays.copyOf(levels, 2 * size);
        }
        levels[size++] = level;
    }

    boolean isEmpty() {
        return size == 0;
    }

    int size() {
        return size;
    }

    /** Loses the event at a place counted from the end: 1 is the last one. */
    void loseFromEnd(int place, SinkHealth health) {
        int at = size - place;
        count(levels[at], health);
        System.arraycopy(levels, at + 1, levels, at, size - at - 1);
        size--;
    }

    /** Loses the last events: what a sink has not written of what it took in order. */
    void loseLast(long count, SinkHealth health) {
        for (long left = Math.min(count, size); left > 0; left--) {
            count(levels[--size], health);
        }
    }

    /** Counts a number of events as lost, the least severe first: a receiver does not identify those that it rejects. */
    void loseLeastSevere(long count, SinkHealth health) {
        byte[] ofTheProgram = new byte[size];
        int events = 0;
        for (int i = 0; i < size; i++) {
            if (levels[i] != REPORT) {
                ofTheProgram[events++] = levels[i];
            }
        }
        Arrays.sort(ofTheProgram, 0, events);
        int lost = (int) Math.min(count, events);
        for (int i = 0; i < lost; i++) {
            count(ofTheProgram[i], health);
        }
        System.arraycopy(ofTheProgram, lost, levels, 0, events - lost);
        size = events - lost;
    }

    private static void count(byte level, SinkHealth health) {
        if (level != REPORT) {
            health.count(LEVELS[level]);
        }
    }

    /**
     * All of them were written.
     *
     * @return how many
     */
    int settle() {
        int count = size;
        size = 0;
        return count;
    }
}
