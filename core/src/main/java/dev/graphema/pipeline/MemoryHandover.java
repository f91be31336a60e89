package dev.graphema.pipeline;

import dev.graphema.event.EventBytes;
import dev.graphema.event.Level;
import dev.graphema.spool.Ring;
import java.util.function.Consumer;

/** A bounded, lock-free queue in memory outside the heap. Its content is lost when the process ends. */
final class MemoryHandover implements Handover {
    /** The default capacity: space for about ten thousand usual events. */
    static final int USUAL_CAPACITY = 4 * 1024 * 1024;

    private final Ring ring;
    private final int part;

    /** @param capacity the bytes of events that may wait: a power of two, 64 KiB or more */
    MemoryHandover(int capacity) {
        this.ring = Ring.inMemory(capacity);
        this.part = capacity / PARTS;
    }

    @Override
    public int longest() {
        return ring.longest();
    }

    @Override
    public boolean offer(EventBytes event, int leaving) {
        return ring.put(event.array(), event.length(), leaving * part);
    }

    @Override
    public Level take(RecordBatch batch) {
        int length = ring.peek();
        if (length == 0) {
            ring.giveBack();
            return null;
        }
        Level level = batch.take(ring, length);
        if (batch.isFull()) {
            ring.giveBack();
        }
        return level;
    }

    @Override
    public void written() {
        // nothing is kept
    }

    @Override
    public void abandon(Consumer<Level> lost) {
        RecordBatch batch = new RecordBatch(1);
        Level level;
        while ((level = take(batch)) != null) {
            lost.accept(level);
            batch.clear();
        }
    }

    @Override
    public boolean outlivesProcess() {
        return false;
    }

    @Override
    public long offeredUpTo() {
        return ring.putUpTo();
    }

    @Override
    public long takenUpTo() {
        return ring.takenUpTo();
    }

    @Override
    public boolean hasRoom() {
        return ring.used() < ring.capacity() / 2;
    }

    @Override
    public boolean isEmpty() {
        return ring.putUpTo() == ring.takenUpTo();
    }

    @Override
    public long waitingBytes() {
        return ring.putUpTo() - ring.takenUpTo();
    }

    @Override
    public String waiting() {
        return waitingBytes() + " bytes of events";
    }
}
