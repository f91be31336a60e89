package dev.graphema.pipeline;

import dev.graphema.event.EventBytes;
import dev.graphema.event.Level;
import dev.graphema.spool.Ring;
import dev.graphema.spool.RingFile;
import java.io.IOException;
import java.util.function.Consumer;

/**
 * A queue in a memory-mapped file: an event that was offered survives the sudden end of the process.
 *
 * <p>If the mapping fails, because another process has truncated the file, events wait in memory from then on. This is
 * reported once.
 */
final class DurableHandover implements Handover {
    private final RingFile file;
    private final Ring ring;
    private final int capacityOfSubstitute;
    private final Consumer<String> error;
    private final int part;

    /** The queue in memory that is used instead of the file; null while the file can be used. */
    private volatile MemoryHandover substitute;

    /**
     * @param capacityOfSubstitute the bytes of events that may wait in memory if the file cannot be used any more
     * @param error receives one line about an event that cannot be read, or about the file
     */
    DurableHandover(RingFile file, int capacityOfSubstitute, Consumer<String> error) {
        this.file = file;
        this.ring = file.ring();
        this.capacityOfSubstitute = capacityOfSubstitute;
        this.error = error;
        this.part = ring.capacity() / PARTS;
    }

    @Override
    public int longest() {
        return Math.min(ring.longest(), Ring.longest(capacityOfSubstitute));
    }

    @Override
    public boolean offer(EventBytes event, int leaving) {
        MemoryHandover other = substitute;
        if (other != null) {
            return other.offer(event, leaving);
        }
        try {
            return ring.put(event.array(), event.length(), leaving * part);
        } catch (InternalError e) {
            return fail().offer(event, leaving);
        }
    }

    @Override
    public Level take(RecordBatch batch) {
        while (substitute == null) {
            try {
                int length = ring.peek();
                return length == 0 ? null : batch.take(ring, length);
            } catch (IllegalArgumentException e) {
                error.accept("a record in " + file.path() + " is " + e.getMessage() + " and is skipped");
            } catch (InternalError e) {
                fail();
            }
        }
        return substitute.take(batch);
    }

    private synchronized MemoryHandover fail() {
        if (substitute == null) {
            substitute = new MemoryHandover(capacityOfSubstitute);
            error.accept(
                    file.path() + " was truncated by another process: events wait in memory from now on, and are lost"
                            + " with the process; restart it to use the file again");
        }
        return substitute;
    }

    @Override
    public void written() {
        if (substitute == null) {
            try {
                ring.giveBack();
            } catch (InternalError e) {
                fail();
            }
        }
    }

    @Override
    public void abandon(Consumer<Level> lost) {
        if (substitute != null) {
            substitute.abandon(lost);
        }
    }

    @Override
    public boolean outlivesProcess() {
        return substitute == null;
    }

    @Override
    public long offeredUpTo() {
        return substitute == null ? ring.putUpTo() : behindFile() + substitute.offeredUpTo();
    }

    @Override
    public long takenUpTo() {
        return substitute == null ? ring.takenUpTo() : behindFile() + substitute.takenUpTo();
    }

    /** A position behind all events of the file, because positions only grow. */
    private long behindFile() {
        return ring.takenUpTo() + ring.capacity();
    }

    @Override
    public boolean hasRoom() {
        return substitute == null ? ring.used() < ring.capacity() / 2 : substitute.hasRoom();
    }

    @Override
    public boolean isEmpty() {
        return substitute == null ? ring.putUpTo() == ring.takenUpTo() : substitute.isEmpty();
    }

    @Override
    public long waitingBytes() {
        return substitute == null ? ring.putUpTo() - ring.takenUpTo() : substitute.waitingBytes();
    }

    @Override
    public String waiting() {
        return substitute == null
                ? ring.used() + " bytes of events, which the next start finds in " + file.path()
                : substitute.waiting();
    }

    @Override
    public void close() throws IOException {
        file.close();
    }
}
