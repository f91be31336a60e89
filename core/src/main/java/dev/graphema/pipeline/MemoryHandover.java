package dev.graphema.pipeline;

import dev.graphema.event.Event;
import java.util.concurrent.atomic.AtomicReference;
import java.util.function.Consumer;

/**
 * A bounded, lock-free queue in the heap. Its content is lost when the process ends.
 *
 * <p>Producers push onto a linked stack; the consumer takes the whole stack at once and reverses it. One compare-and-set both
 * claims a place and publishes the event. A producer that is interrupted by a stack overflow or runs out of memory has
 * therefore either added its event or changed nothing, and can never leave a gap that stops the consumer. (An array queue
 * claims first and publishes afterwards.) The price is one small object per event.
 */
final class MemoryHandover implements Handover {
    private final int capacity;
    private final int part;
    private final AtomicReference<Node> last = new AtomicReference<>(new Node(null, null, 0));

    /** The oldest node that was taken from the stack and not yet returned; the consumer's. */
    private Node oldest;

    /** The number of the event that was returned last. Written by the consumer, read by producers. */
    private volatile long taken;

    private static final class Node {
        /** Null at the bottom of the stack: an emptied stack keeps the number of its last event in such a node. */
        private final Event event;

        private final long number;

        /** The next node below. The consumer, which owns the nodes that it has taken, reverses it to the next node above. */
        private Node next;

        Node(Event event, Node next, long number) {
            this.event = event;
            this.next = next;
            this.number = number;
        }
    }

    /** @param capacity how many events may wait */
    MemoryHandover(int capacity) {
        this.capacity = capacity;
        this.part = capacity / PARTS;
    }

    @Override
    public boolean offer(Event event, int leaving) {
        while (true) {
            Node before = last.get();
            long number = before.number + 1;
            if (number - taken > capacity - (long) leaving * part) {
                return false;
            }
            if (last.compareAndSet(before, new Node(event, before.event == null ? null : before, number))) {
                return true;
            }
        }
    }

    @Override
    public Event take() {
        if (oldest == null && !takeStack()) {
            return null;
        }
        Node next = oldest;
        oldest = next.next;
        taken = next.number;
        return next.event;
    }

    /** Takes all nodes and reverses their order, in place, so that nothing can fail in between; false when there are none. */
    private boolean takeStack() {
        Node top;
        do {
            top = last.get();
            if (top.event == null) {
                return false;
            }
        } while (!last.compareAndSet(top, new Node(null, null, top.number)));
        Node reversed = null;
        while (top != null) {
            Node below = top.next;
            top.next = reversed;
            reversed = top;
            top = below;
        }
        oldest = reversed;
        return true;
    }

    @Override
    public void written() {
        // nothing is kept
    }

    @Override
    public void abandon(Consumer<Event> lost) {
        Event event;
        while ((event = take()) != null) {
            lost.accept(event);
        }
    }

    @Override
    public boolean outlivesProcess() {
        return false;
    }

    @Override
    public long offeredUpTo() {
        return last.get().number;
    }

    @Override
    public long takenUpTo() {
        return taken;
    }

    @Override
    public boolean hasRoom() {
        return waitingEvents() < capacity / 2;
    }

    @Override
    public boolean isEmpty() {
        return waitingEvents() == 0;
    }

    private long waitingEvents() {
        return last.get().number - taken;
    }

    @Override
    public String waiting() {
        return waitingEvents() + " events";
    }
}
