package dev.graphema.propagation;

import java.util.concurrent.Callable;

/** Wraps tasks so that they run in the context in which they were submitted. */
public interface Carrier {
    Runnable runnable(Runnable task);

    <T> Callable<T> callable(Callable<T> task);
}
