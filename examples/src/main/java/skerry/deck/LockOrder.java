package skerry.deck;

import java.util.ArrayList;
import java.util.Collections;
import java.util.List;

/** The order in which the lanes of a vehicle are locked. */
enum LockOrder {
    /** By name, for all bookings: nobody waits for a lane while holding a later one. */
    BY_NAME {
        @Override
        List<String> of(List<String> lanes, int booking) {
            return lanes;
        }
    },
    /**
     * Every other booking starts from the far side, so that not all begin with the same lane. Two of them can then wait
     * for each other: this is the mistake in release 2.4.1.
     */
    FROM_BOTH_SIDES {
        @Override
        List<String> of(List<String> lanes, int booking) {
            List<String> order = new ArrayList<>(lanes);
            if (booking % 2 == 1) {
                Collections.reverse(order);
            }
            return order;
        }
    };

    /** Returns the order in a release of the service. */
    static LockOrder in(String release) {
        return release.equals("2.4.1") ? FROM_BOTH_SIDES : BY_NAME;
    }

    abstract List<String> of(List<String> lanes, int booking);
}
