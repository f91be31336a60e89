package dev.graphema.collector.permission;

import dev.graphema.collector.access.Role;
import dev.graphema.collector.http.Call;
import dev.graphema.collector.http.Problem;

/** Decides whether a request is allowed. Thread-safe. */
@FunctionalInterface
public interface Access {
    /**
     * Checks who sends a request.
     *
     * @param role what the sender needs to be allowed
     * @throws Problem if it is not allowed
     */
    Caller require(Role role, Call call) throws Problem;
}
