package dev.graphema.pipeline;

import dev.graphema.event.EventBytes;
import dev.graphema.event.EventRecord;
import dev.graphema.event.Level;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.function.Consumer;

/** A queue whose capacity is a number of events, so that tests can count them. */
final class CountingHandover implements Handover {
    private final int capacity;
    private final Deque<byte[]> events = new ArrayDeque<>();
    private long offered;

    CountingHandover(int capacity) {
        this.capacity = capacity;
    }

    @Override
    public int longest() {
        return Integer.MAX_VALUE;
    }

    @Override
    public synchronized boolean offer(EventBytes event, int leaving) {
        if (events.size() >= capacity - leaving * (capacity / PARTS)) {
            return false;
        }
        offered++;
        return events.add(event.copy());
    }

    @Override
    public synchronized Level take(RecordBatch batch) {
        byte[] event = events.poll();
        if (event == null) {
            return null;
        }
        batch.add(new EventBytes().write(EventRecord.of(event).event()));
        return EventRecord.level(event, 0);
    }

    @Override
    public void written() {}

    @Override
    public synchronized void abandon(Consumer<Level> lost) {
        events.forEach(event -> lost.accept(EventRecord.level(event, 0)));
        events.clear();
    }

    @Override
    public boolean outlivesProcess() {
        return false;
    }

    @Override
    public synchronized long offeredUpTo() {
        return offered;
    }

    @Override
    public synchronized long takenUpTo() {
        return offered - events.size();
    }

    @Override
    public synchronized boolean hasRoom() {
        return events.size() < capacity / 2;
    }

    @Override
    public synchronized boolean isEmpty() {
        return events.isEmpty();
    }

    @Override
    public synchronized long waitingBytes() {
        return events.size();
    }

    @Override
    public synchronized String waiting() {
        return events.size() + " events";
    }
}
