package dev.graphema;

import dev.graphema.event.FieldWriter;
import dev.graphema.event.Fields;
import dev.graphema.propagation.Carrier;
import dev.graphema.propagation.CarryingExecutor;
import dev.graphema.propagation.CarryingScheduler;
import dev.graphema.propagation.ThreadFrames;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.concurrent.Executor;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.ThreadFactory;
import java.util.function.Consumer;

/**
 * Fields that are set once, where a request enters the program, and that are part of every event emitted below, without any
 * change to the code in between:
 *
 * <pre>{@code
 * try (Scope scope = Context.open(f -> f.put("booking", reference))) {
 *     desk.confirm();
 * }
 * }</pre>
 *
 * <p>If names are equal, a field of the event takes precedence over one of the context, and a field of an inner scope over one of
 * an outer scope.
 *
 * <p>A context belongs to one thread. {@linkplain #carry(ExecutorService) Wrapped executors} and {@linkplain #carryInto thread
 * factories} carry it to other threads, together with the correlation; {@link #capture} does so explicitly:
 *
 * <pre>{@code
 * ExecutorService pool = Context.carry(Executors.newFixedThreadPool(8));
 * CompletableFuture.supplyAsync(desk::quote, pool);
 * client.onAnswer(Context.capture().consumer(answer -> log.info("answered")));
 * }</pre>
 */
public final class Context {
    private Context() {}

    /** Adds fields to all events of this thread until the scope is closed. */
    public static Scope open(Consumer<? super FieldWriter> fields) {
        return OpenScope.open(null, Fields.of(fields, OpenScope.tree().sensitive()), null);
    }

    /**
     * Runs the work with additional fields, which are still part of the events that its {@code catch} and {@code finally}
     * blocks emit:
     *
     * <pre>{@code
     * Ticket ticket = Context.with(f -> f.put("booking", reference), () -> {
     *     try {
     *         return desk.confirm();
     *     } catch (LaneTaken e) {
     *         log.warn("lane taken", e); // carries the booking
     *         return desk.offerAnother();
     *     }
     * });
     * }</pre>
     */
    public static <T, E extends Exception> T with(Consumer<? super FieldWriter> fields, Operation.Work<T, E> work)
            throws E {
        try (Scope scope = open(fields)) {
            return work.run();
        }
    }

    /** As {@link #with(Consumer, Operation.Work)}, for work without a result. */
    public static <E extends Exception> void with(Consumer<? super FieldWriter> fields, Operation.Action<E> work)
            throws E {
        try (Scope scope = open(fields)) {
            work.run();
        }
    }

    /** Returns the current context and correlation of this thread, to be opened on other threads any number of times. */
    public static CapturedContext capture() {
        return CapturedContext.of(ThreadFrames.fields(), OpenScope.correlation());
    }

    /** Returns an executor whose tasks run in the context of the thread that submits them. */
    public static Executor carry(Executor executor) {
        return task -> executor.execute(capture().runnable(task));
    }

    /**
     * Returns an executor whose tasks run in the context of the thread that submits them. Shutting it down shuts down the given
     * executor.
     */
    public static ExecutorService carry(ExecutorService executor) {
        return new CarryingExecutor(executor, Context::carrier);
    }

    /**
     * As {@link #carry(ExecutorService)}; each run of a periodic task uses the context in which it was scheduled. If a task
     * other than a {@link Callable} ends with an exception, which ends a periodic task, it is logged at level error by the
     * logger {@code dev.graphema}: usually nobody examines its future.
     */
    public static ScheduledExecutorService carry(ScheduledExecutorService executor) {
        return new CarryingScheduler(executor, Context::carrier, OpenScope::taskFailed);
    }

    private static Carrier carrier() {
        CapturedContext context = capture();
        return new Carrier() {
            @Override
            public Runnable runnable(Runnable task) {
                return context.runnable(task);
            }

            @Override
            public <T> Callable<T> callable(Callable<T> task) {
                return context.callable(task);
            }
        };
    }

    /** Returns a factory whose threads run in the context of the thread that requests them. Supports virtual threads. */
    public static ThreadFactory carryInto(ThreadFactory factory) {
        return task -> factory.newThread(capture().runnable(task));
    }

    /**
     * Returns the open scopes of this thread, the innermost first, for example to check in a test that none was left open. An
     * operation is identified by its name, a context by the names of its fields.
     */
    public static List<String> openScopes() {
        return ThreadFrames.names();
    }
}
