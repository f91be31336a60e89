package dev.graphema.collector.ingest;

import dev.graphema.collector.access.Role;
import dev.graphema.collector.http.Call;
import dev.graphema.collector.http.Problem;
import dev.graphema.collector.permission.Access;
import dev.graphema.collector.permission.Caller;

/** Identifies the senders of lines, by their tokens and not by what the lines contain. Thread-safe. */
public final class Senders {
    private final Access access;
    private final String environment;

    /** @param environment the environment of senders that have none; null for unknown */
    public Senders(Access access, String environment) {
        this.access = access;
        this.environment = environment;
    }

    /** @throws Problem if the request is not allowed */
    public Origin require(Call call) throws Problem {
        Caller caller = access.require(Role.SEND, call);
        return new Origin(caller.name(), caller.environment() == null ? environment : caller.environment());
    }
}
