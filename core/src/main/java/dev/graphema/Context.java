package dev.graphema;

import dev.graphema.event.FieldWriter;
import dev.graphema.event.Fields;
import java.util.List;
import java.util.concurrent.Executor;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.ThreadFactory;
import java.util.function.Consumer;

/**
 * Fields said once, at the edge of the program, and carried by every event that is said below, in code that has never
 * heard of them:
 *
 * <pre>{@code
 * try (Scope scope = Context.open(f -> f.put("booking", reference))) {
 *     desk.confirm();
 * }
 * }</pre>
 *
 * <p>An event's own field hides one of the context, and an inner scope's one of an outer, where the names are the same.
 *
 * <p>A context belongs to one thread. It is carried to others, together with the correlation, by executors that
 * {@link #carry(ExecutorService) carry} and thread factories that {@link #carryInto} has wrapped, or by hand with {@link #capture}:
 *
 * <pre>{@code
 * ExecutorService pool = Context.carry(Executors.newFixedThreadPool(8));
 * CompletableFuture.supplyAsync(desk::quote, pool);
 * client.onAnswer(Context.capture().consumer(answer -> log.info("answered")));
 * }</pre>
 */
public final class Context {
    private Context() {}

    /** Adds fields to every event that this thread says until the scope is closed. */
    public static Scope open(Consumer<? super FieldWriter> fields) {
        return ThreadFrames.open(null, Fields.of(fields, ThreadFrames.tree().sensitive()), null);
    }

    /** What this thread stands in right now, to be opened elsewhere and as often as needed. */
    public static CapturedContext capture() {
        return CapturedContext.of(ThreadFrames.fields(), ThreadFrames.correlation());
    }

    /** An executor whose tasks stand in the context of whoever hands them in. */
    public static Executor carry(Executor executor) {
        return task -> executor.execute(capture().runnable(task));
    }

    /** An executor whose tasks stand in the context of whoever hands them in. Shutting it down shuts down the given one. */
    public static ExecutorService carry(ExecutorService executor) {
        return new CarryingExecutor(executor);
    }

    /** As {@link #carry(ExecutorService)}; every run of a repeated task stands in the context in which it was scheduled. */
    public static ScheduledExecutorService carry(ScheduledExecutorService executor) {
        return new CarryingScheduler(executor);
    }

    /** A factory whose threads stand in the context of whoever asks for them. Serves virtual threads, too. */
    public static ThreadFactory carryInto(ThreadFactory factory) {
        return task -> factory.newThread(capture().runnable(task));
    }

    /**
     * The scopes that are open on this thread, the innermost first: for a test or an edge that wants to see that nothing was
     * left open. An operation is called by its name, a context by the names of its fields.
     */
    public static List<String> openScopes() {
        return ThreadFrames.names();
    }
}
