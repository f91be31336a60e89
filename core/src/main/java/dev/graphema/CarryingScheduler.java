package dev.graphema;

import java.util.concurrent.Callable;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.ScheduledFuture;
import java.util.concurrent.TimeUnit;

/** As {@link CarryingExecutor}, for delayed and periodic tasks. */
final class CarryingScheduler extends CarryingExecutor implements ScheduledExecutorService {
    private final ScheduledExecutorService scheduler;

    CarryingScheduler(ScheduledExecutorService scheduler) {
        super(scheduler);
        this.scheduler = scheduler;
    }

    @Override
    public ScheduledFuture<?> schedule(Runnable task, long delay, TimeUnit unit) {
        return scheduler.schedule(Context.capture().runnable(task), delay, unit);
    }

    @Override
    public <T> ScheduledFuture<T> schedule(Callable<T> task, long delay, TimeUnit unit) {
        return scheduler.schedule(Context.capture().callable(task), delay, unit);
    }

    @Override
    public ScheduledFuture<?> scheduleAtFixedRate(Runnable task, long initialDelay, long period, TimeUnit unit) {
        return scheduler.scheduleAtFixedRate(Context.capture().runnable(task), initialDelay, period, unit);
    }

    @Override
    public ScheduledFuture<?> scheduleWithFixedDelay(Runnable task, long initialDelay, long delay, TimeUnit unit) {
        return scheduler.scheduleWithFixedDelay(Context.capture().runnable(task), initialDelay, delay, unit);
    }
}
