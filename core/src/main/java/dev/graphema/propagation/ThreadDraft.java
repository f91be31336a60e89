package dev.graphema.propagation;

import dev.graphema.event.Draft;
import dev.graphema.event.SensitiveValues;
import java.lang.ref.WeakReference;

/**
 * The draft of a thread, which is used for one event after the other, so that an event needs no new one.
 *
 * <p>The thread refers to it weakly, because a thread that outlives the class loader of this library must not keep its
 * classes in memory: after a collection of garbage, the next event creates another draft.
 */
public final class ThreadDraft {
    private final Draft draft = new Draft();
    private final Object[] place;

    private ThreadDraft(Object[] place) {
        this.place = place;
    }

    /**
     * Returns an empty draft for an event of this thread. An event that is emitted while another one is recorded has a
     * separate draft, and so has one after an event that was not given back because of an error.
     */
    public static ThreadDraft borrow(SensitiveValues sensitive) {
        Object[] place = ThreadFrames.place();
        WeakReference<?> known = (WeakReference<?>) place[ThreadFrames.DRAFT];
        ThreadDraft own = known == null ? null : (ThreadDraft) known.get();
        if (own == null || own.draft.isBorrowed()) {
            own = new ThreadDraft(place);
            place[ThreadFrames.DRAFT] = new WeakReference<>(own);
        }
        own.draft.borrow(Thread.currentThread(), sensitive);
        return own;
    }

    public Draft draft() {
        return draft;
    }

    /** Sets the ids of the current request, and adds the fields of the open scopes. */
    public void addContext() {
        Frame innermost = ThreadFrames.open(place);
        ThreadFrames.mark(draft, innermost);
        ThreadFrames.addFields(draft, innermost);
    }

    /** Ends the use of the draft after its event was accepted. */
    public void giveBack() {
        draft.giveBack();
    }
}
