package dev.graphema.collector.permission;

import dev.graphema.collector.http.Problem;
import java.util.HashMap;
import java.util.Map;

/** Bounds what is done at once: by all together, and by each caller, so that one leaves room for the others. Thread-safe. */
public final class Shares {
    private static final int SOON_SECONDS = 1;

    private final String what;
    private final int most;
    private final int mostOfOne;
    private final Map<String, Integer> taken = new HashMap<>();
    private int all;

    /**
     * @param what is bounded, in the plural: {@code questions}
     * @param most of all callers together
     * @param mostOfOne of a caller with a token
     */
    public Shares(String what, int most, int mostOfOne) {
        this.what = what;
        this.most = most;
        this.mostOfOne = mostOfOne;
    }

    /** A share, which is given back when it is closed. */
    public interface Share extends AutoCloseable {
        @Override
        void close();
    }

    /** @throws Problem if there is no room */
    public synchronized Share take(Caller caller) throws Problem {
        String name = caller.name();
        if (all >= most) {
            throw tooMany(most + " " + what + " are in progress: try again later");
        }
        if (name != null && taken.getOrDefault(name, 0) >= mostOfOne) {
            throw tooMany(mostOfOne + " " + what + " of the token " + name
                    + " are in progress: wait for one of them, or use several tokens");
        }
        all++;
        if (name != null) {
            taken.merge(name, 1, Integer::sum);
        }
        return new Taken(name);
    }

    private Problem tooMany(String detail) {
        return new Problem(429, "Too many " + what + " at once", detail, SOON_SECONDS);
    }

    private synchronized void giveBack(String name) {
        all--;
        if (name != null) {
            taken.computeIfPresent(name, (key, count) -> count == 1 ? null : count - 1);
        }
    }

    /** Returns how many are in progress. */
    public synchronized int inProgress() {
        return all;
    }

    private final class Taken implements Share {
        private final String name;
        private boolean isClosed;

        Taken(String name) {
            this.name = name;
        }

        @Override
        public synchronized void close() {
            if (!isClosed) {
                isClosed = true;
                giveBack(name);
            }
        }
    }
}
