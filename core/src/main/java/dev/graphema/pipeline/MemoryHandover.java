package dev.graphema.pipeline;

import dev.graphema.event.Event;
import org.jctools.queues.varhandle.MpscVarHandleArrayQueue;

/** References in a lock-free queue: as fast as can be, and gone when the process is. */
final class MemoryHandover implements Handover {
    private final MpscVarHandleArrayQueue<Event> queue;
    private final int part;

    /** @param capacity how many events may wait: a power of two */
    MemoryHandover(int capacity) {
        queue = new MpscVarHandleArrayQueue<>(capacity);
        part = capacity / PARTS;
    }

    @Override
    public boolean offer(Event event, int leaving) {
        return leaving == 0
                ? queue.offer(event)
                : queue.offerIfBelowThreshold(event, queue.capacity() - leaving * part);
    }

    @Override
    public Event take() {
        return queue.poll();
    }

    @Override
    public void written() {
        // nothing is kept
    }

    @Override
    public long offeredUpTo() {
        return queue.currentProducerIndex();
    }

    @Override
    public long takenUpTo() {
        return queue.currentConsumerIndex();
    }

    @Override
    public boolean hasRoom() {
        return queue.size() < queue.capacity() / 2;
    }

    @Override
    public boolean isEmpty() {
        return queue.isEmpty();
    }

    @Override
    public String waiting() {
        return queue.size() + " events";
    }
}
