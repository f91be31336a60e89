package dev.graphema.pipeline;

import dev.graphema.event.Draft;
import dev.graphema.event.Event;
import dev.graphema.event.EventBytes;
import dev.graphema.spool.RingFile;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.util.function.Consumer;
import org.jctools.queues.varhandle.MpmcVarHandleArrayQueue;

/** Bytes in a memory-mapped file: what was offered survives the sudden end of the process. */
final class DurableHandover implements Handover {
    private static final int MOST_WRITERS_KEPT = 16;

    private final RingFile ring;
    private final Consumer<String> trouble;
    private final int part;
    // Writers are large and threads may be many and virtual, so they are shared and not bound to threads.
    private final MpmcVarHandleArrayQueue<EventBytes> writers = new MpmcVarHandleArrayQueue<>(MOST_WRITERS_KEPT);

    /** @param trouble told in one line about an event that cannot be read again */
    DurableHandover(RingFile ring, Consumer<String> trouble) {
        this.ring = ring;
        this.trouble = trouble;
        this.part = ring.capacity() / PARTS;
    }

    @Override
    public boolean offer(Event event, int leaving) {
        EventBytes writer = writers.poll();
        if (writer == null) {
            writer = new EventBytes();
        }
        ByteBuffer bytes = writer.write(event);
        boolean put = bytes.remaining() <= ring.longest() && ring.put(bytes, leaving * part);
        writers.offer(writer);
        return put;
    }

    @Override
    public Event take() {
        ByteBuffer bytes;
        while ((bytes = ring.take()) != null) {
            try {
                Event event = EventBytes.read(bytes);
                return ring.lastIsRepeat() ? Draft.repeat(event) : event;
            } catch (IllegalArgumentException e) {
                trouble.accept("a record in " + ring.path() + " is " + e.getMessage() + " and is passed over");
            }
        }
        return null;
    }

    @Override
    public void written() {
        ring.giveBack();
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
    public String waiting() {
        return ring.used() + " bytes of events, which the next start finds in " + ring.path();
    }

    @Override
    public void close() throws IOException {
        ring.close();
    }
}
