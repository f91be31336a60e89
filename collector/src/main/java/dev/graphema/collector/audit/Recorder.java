package dev.graphema.collector.audit;

import dev.graphema.collector.http.Call;
import dev.graphema.collector.permission.Caller;
import dev.graphema.event.FieldWriter;
import java.util.function.Consumer;

/** Records what callers do. Thread-safe. */
@FunctionalInterface
public interface Recorder {
    /** Records nothing: for one user, on the own machine. */
    Recorder NONE = (what, caller, call, fields) -> {};

    /**
     * Records what a caller does.
     *
     * @param what a constant text: {@code question}
     * @param fields writes what belongs to it
     */
    void record(String what, Caller caller, Call call, Consumer<FieldWriter> fields);
}
