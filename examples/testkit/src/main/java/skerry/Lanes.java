package skerry;

import dev.graphema.Logger;

/** Vehicle lanes of a deck. */
public final class Lanes {
    private static final Logger log = Logger.of(Lanes.class);
    private double free = 12.5;

    /** Takes a part of the lane; returns whether there was room. */
    public boolean take(double length) {
        if (length > free) {
            log.warn(
                    "lane full",
                    f -> f.put("lane", "A3").put("wanted_m", length).put("free_m", free));
            return false;
        }
        free -= length;
        log.info("lane taken", f -> f.put("lane", "A3").put("free_m", free));
        return true;
    }
}
