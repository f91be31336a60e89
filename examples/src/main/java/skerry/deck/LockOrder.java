package skerry.deck;

import java.util.ArrayList;
import java.util.Collections;
import java.util.List;

/** In which order a vehicle's lanes are locked. */
enum LockOrder {
    /** By name, for everybody: nobody waits for a lane while holding one that comes later. */
    BY_NAME {
        @Override
        List<String> of(List<String> lanes, int booking) {
            return lanes;
        }
    },
    /** Every other booking starts from the far side, so that not all begin at the same lane. Two of them can then wait for
     * each other: this is the mistake in release 2.4.1. */
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

    /** The order in that release of the service. */
    static LockOrder in(String release) {
        return release.equals("2.4.1") ? FROM_BOTH_SIDES : BY_NAME;
    }

    abstract List<String> of(List<String> lanes, int booking);
}
