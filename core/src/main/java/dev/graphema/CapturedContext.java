package dev.graphema;

import dev.graphema.event.Fields;
import java.util.concurrent.Callable;
import java.util.function.BiConsumer;
import java.util.function.BiFunction;
import java.util.function.Consumer;
import java.util.function.Function;
import java.util.function.Supplier;

/**
 * The context and correlation of a thread at one point in time. Immutable. Can be opened on any thread, any number of times, also
 * concurrently.
 *
 * <p>An opened context replaces the context of that thread. After it is closed, the thread has its previous context, even if the
 * work left scopes open; such scopes are reported.
 */
public final class CapturedContext {
    private static final CapturedContext NOTHING = new CapturedContext(Fields.NONE, Correlation.NONE);

    private final Fields fields;
    private final Correlation correlation;

    private CapturedContext(Fields fields, Correlation correlation) {
        this.fields = fields;
        this.correlation = correlation;
    }

    static CapturedContext of(Fields fields, Correlation correlation) {
        return fields.isEmpty() && correlation == Correlation.NONE ? NOTHING : new CapturedContext(fields, correlation);
    }

    /** Applies this context to the current thread until the scope is closed. */
    public Scope open() {
        return OpenScope.openEdge("carried context", fields, correlation);
    }

    public Runnable runnable(Runnable task) {
        return () -> {
            try (Scope scope = open()) {
                task.run();
            }
        };
    }

    public <T> Callable<T> callable(Callable<T> task) {
        return () -> {
            try (Scope scope = open()) {
                return task.call();
            }
        };
    }

    public <T> Supplier<T> supplier(Supplier<T> supplier) {
        return () -> {
            try (Scope scope = open()) {
                return supplier.get();
            }
        };
    }

    public <T> Consumer<T> consumer(Consumer<? super T> consumer) {
        return value -> {
            try (Scope scope = open()) {
                consumer.accept(value);
            }
        };
    }

    public <T, U> BiConsumer<T, U> biConsumer(BiConsumer<? super T, ? super U> consumer) {
        return (first, second) -> {
            try (Scope scope = open()) {
                consumer.accept(first, second);
            }
        };
    }

    public <T, R> Function<T, R> function(Function<? super T, ? extends R> function) {
        return value -> {
            try (Scope scope = open()) {
                return function.apply(value);
            }
        };
    }

    public <T, U, R> BiFunction<T, U, R> biFunction(BiFunction<? super T, ? super U, ? extends R> function) {
        return (first, second) -> {
            try (Scope scope = open()) {
                return function.apply(first, second);
            }
        };
    }
}
