package dev.graphema.propagation;

import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.concurrent.AbstractExecutorService;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Future;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import java.util.function.Supplier;

/** Passes every task to another executor, wrapped in the context of the submitting thread. */
public class CarryingExecutor extends AbstractExecutorService {
    private final ExecutorService executor;

    /** Returns the current context. */
    final Supplier<Carrier> capture;

    /** @param capture returns the current context */
    public CarryingExecutor(ExecutorService executor, Supplier<Carrier> capture) {
        this.executor = executor;
        this.capture = capture;
    }

    @Override
    public void execute(Runnable task) {
        executor.execute(capture.get().runnable(task));
    }

    // Other ways to submit are passed on, so that an executor with its own futures keeps them.

    @Override
    public Future<?> submit(Runnable task) {
        return executor.submit(capture.get().runnable(task));
    }

    @Override
    public <T> Future<T> submit(Runnable task, T result) {
        return executor.submit(capture.get().runnable(task), result);
    }

    @Override
    public <T> Future<T> submit(Callable<T> task) {
        return executor.submit(capture.get().callable(task));
    }

    @Override
    public <T> List<Future<T>> invokeAll(Collection<? extends Callable<T>> tasks) throws InterruptedException {
        return executor.invokeAll(wrapped(tasks));
    }

    @Override
    public <T> List<Future<T>> invokeAll(Collection<? extends Callable<T>> tasks, long timeout, TimeUnit unit)
            throws InterruptedException {
        return executor.invokeAll(wrapped(tasks), timeout, unit);
    }

    @Override
    public <T> T invokeAny(Collection<? extends Callable<T>> tasks) throws InterruptedException, ExecutionException {
        return executor.invokeAny(wrapped(tasks));
    }

    @Override
    public <T> T invokeAny(Collection<? extends Callable<T>> tasks, long timeout, TimeUnit unit)
            throws InterruptedException, ExecutionException, TimeoutException {
        return executor.invokeAny(wrapped(tasks), timeout, unit);
    }

    @Override
    public void shutdown() {
        executor.shutdown();
    }

    @Override
    public List<Runnable> shutdownNow() {
        return executor.shutdownNow();
    }

    @Override
    public boolean isShutdown() {
        return executor.isShutdown();
    }

    @Override
    public boolean isTerminated() {
        return executor.isTerminated();
    }

    @Override
    public boolean awaitTermination(long timeout, TimeUnit unit) throws InterruptedException {
        return executor.awaitTermination(timeout, unit);
    }

    private <T> List<Callable<T>> wrapped(Collection<? extends Callable<T>> tasks) {
        Carrier context = capture.get();
        List<Callable<T>> wrapped = new ArrayList<>(tasks.size());
        for (Callable<T> task : tasks) {
            wrapped.add(context.callable(task));
        }
        return wrapped;
    }
}
