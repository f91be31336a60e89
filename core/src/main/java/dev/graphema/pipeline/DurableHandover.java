package dev.graphema.pipeline;

import dev.graphema.event.Draft;
import dev.graphema.event.Event;
import dev.graphema.event.EventBytes;
import dev.graphema.spool.RingFile;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.util.function.Consumer;
import org.jctools.queues.varhandle.MpmcVarHandleArrayQueue;

/**
 * Bytes in a memory-mapped file: an event that was offered survives the sudden end of the process.
 *
 * <p>When the mapping fails, because another process has truncated the file, events wait in memory from then on. This is
 * reported once.
 */
final class DurableHandover implements Handover {
    private static final int MOST_WRITERS_KEPT = 16;

    private final RingFile ring;
    private final MemoryHandover substitute;
    private final Consumer<String> error;
    private final int part;
    // Writers are large and threads may be many and virtual, so they are shared and not bound to threads.
    private final MpmcVarHandleArrayQueue<EventBytes> writers = new MpmcVarHandleArrayQueue<>(MOST_WRITERS_KEPT);

    private volatile boolean broken;

    /**
     * @param capacity how many events may wait in memory when the file cannot be used any more
     * @param error receives one line about an event that cannot be read again, or about the file
     */
    DurableHandover(RingFile ring, int capacity, Consumer<String> error) {
        this.ring = ring;
        this.substitute = new MemoryHandover(capacity);
        this.error = error;
        this.part = ring.capacity() / PARTS;
    }

    @Override
    public boolean offer(Event event, int leaving) {
        if (broken) {
            return substitute.offer(event, leaving);
        }
        try {
            return put(event, leaving * part);
        } catch (InternalError e) {
            fail();
            return substitute.offer(event, leaving);
        }
    }

    private boolean put(Event event, int leavingBytes) {
        // Asked first, because encoding costs more than all else, and a full ring is asked again and again.
        if (!ring.hasRoom(leavingBytes)) {
            return false;
        }
        EventBytes writer = writers.poll();
        if (writer == null) {
            writer = new EventBytes();
        }
        ByteBuffer bytes = writer.write(event);
        boolean put = bytes.remaining() <= ring.longest() && ring.put(bytes, leavingBytes);
        writers.offer(writer);
        return put;
    }

    @Override
    public Event take() {
        while (!broken) {
            try {
                ByteBuffer bytes = ring.peek();
                if (bytes == null) {
                    break;
                }
                Event event = read(bytes);
                boolean isRepeat = ring.isRepeat();
                ring.advance();
                if (event != null) {
                    return isRepeat ? Draft.repeat(event) : event;
                }
            } catch (InternalError e) {
                fail();
            }
        }
        return substitute.take();
    }

    /** The event, or null when the bytes are none. An error leaves the record where it is. */
    private Event read(ByteBuffer bytes) {
        try {
            return EventBytes.read(bytes);
        } catch (IllegalArgumentException e) {
            error.accept("a record in " + ring.path() + " is " + e.getMessage() + " and is skipped");
            return null;
        }
    }

    private synchronized void fail() {
        if (!broken) {
            broken = true;
            error.accept(
                    ring.path() + " was truncated by another process: events wait in memory from now on, and are lost"
                            + " with the process; restart it to use the file again");
        }
    }

    @Override
    public void written() {
        if (!broken) {
            try {
                ring.giveBack();
            } catch (InternalError e) {
                fail();
            }
        }
    }

    @Override
    public void abandon(Consumer<Event> lost) {
        substitute.abandon(lost);
    }

    @Override
    public boolean outlivesProcess() {
        return !broken;
    }

    @Override
    public long offeredUpTo() {
        return broken ? substitute.offeredUpTo() : ring.putUpTo();
    }

    @Override
    public long takenUpTo() {
        return broken ? substitute.takenUpTo() : ring.takenUpTo();
    }

    @Override
    public boolean hasRoom() {
        return broken ? substitute.hasRoom() : ring.used() < ring.capacity() / 2;
    }

    @Override
    public boolean isEmpty() {
        return (broken || ring.putUpTo() == ring.takenUpTo()) && substitute.isEmpty();
    }

    @Override
    public String waiting() {
        return broken
                ? substitute.waiting()
                : ring.used() + " bytes of events, which the next start finds in " + ring.path();
    }

    @Override
    public void close() throws IOException {
        ring.close();
    }
}
