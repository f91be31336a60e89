package dev.graphema.propagation;

import dev.graphema.event.Draft;
import dev.graphema.event.SensitiveValues;
import java.lang.ref.WeakReference;

/**
 * The draft of the current thread, which is used for one event after the other, so that an event needs no new one.
 *
 * <p>The thread refers to it weakly, because a thread that outlives the class loader of this library must not keep its
 * classes in memory: after a collection of garbage, the next event creates another draft.
 */
public final class ThreadDraft {
    private ThreadDraft() {}

    /**
     * Returns an empty draft for an event of this thread. An event that is emitted while another one is recorded has a
     * draft of its own, and so has one after an event that was not given back because of an error.
     */
    public static Draft borrow(SensitiveValues sensitive) {
        Object[] place = ThreadFrames.place();
        WeakReference<?> known = (WeakReference<?>) place[ThreadFrames.DRAFT];
        Draft draft = known == null ? null : (Draft) known.get();
        if (draft == null || draft.isBorrowed()) {
            draft = new Draft();
            place[ThreadFrames.DRAFT] = new WeakReference<>(draft);
        }
        return draft.borrow(Thread.currentThread(), sensitive);
    }

    /** Takes the draft of an event back that has left the thread. */
    public static void giveBack(Draft draft) {
        draft.again();
    }
}
