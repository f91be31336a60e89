package dev.graphema.propagation;

import java.util.concurrent.Callable;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.ScheduledFuture;
import java.util.concurrent.TimeUnit;
import java.util.function.Supplier;

/** As {@link CarryingExecutor}, for delayed and periodic tasks. */
public final class CarryingScheduler extends CarryingExecutor implements ScheduledExecutorService {
    private final ScheduledExecutorService scheduler;

    /** @param capture returns the current context */
    public CarryingScheduler(ScheduledExecutorService scheduler, Supplier<Carrier> capture) {
        super(scheduler, capture);
        this.scheduler = scheduler;
    }

    @Override
    public ScheduledFuture<?> schedule(Runnable task, long delay, TimeUnit unit) {
        return scheduler.schedule(capture.get().runnable(task), delay, unit);
    }

    @Override
    public <T> ScheduledFuture<T> schedule(Callable<T> task, long delay, TimeUnit unit) {
        return scheduler.schedule(capture.get().callable(task), delay, unit);
    }

    @Override
    public ScheduledFuture<?> scheduleAtFixedRate(Runnable task, long initialDelay, long period, TimeUnit unit) {
        return scheduler.scheduleAtFixedRate(capture.get().runnable(task), initialDelay, period, unit);
    }

    @Override
    public ScheduledFuture<?> scheduleWithFixedDelay(Runnable task, long initialDelay, long delay, TimeUnit unit) {
        return scheduler.scheduleWithFixedDelay(capture.get().runnable(task), initialDelay, delay, unit);
    }
}
