package dev.graphema.propagation;

import java.util.concurrent.Callable;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.ScheduledFuture;
import java.util.concurrent.TimeUnit;
import java.util.function.BiConsumer;
import java.util.function.Supplier;

/** As {@link CarryingExecutor}, for delayed and periodic tasks. */
public final class CarryingScheduler extends CarryingExecutor implements ScheduledExecutorService {
    private final ScheduledExecutorService scheduler;
    private final BiConsumer<Runnable, Throwable> failed;

    /**
     * @param capture returns the current context
     * @param failed receives tasks that ended with a failure, which nobody else may notice: of a periodic task, it ends
     *     all further runs
     */
    public CarryingScheduler(
            ScheduledExecutorService scheduler, Supplier<Carrier> capture, BiConsumer<Runnable, Throwable> failed) {
        super(scheduler, capture);
        this.scheduler = scheduler;
        this.failed = failed;
    }

    private Runnable carried(Runnable task) {
        return capture.get().runnable(() -> {
            try {
                task.run();
            } catch (Throwable e) {
                failed.accept(task, e);
                throw e;
            }
        });
    }

    @Override
    public ScheduledFuture<?> schedule(Runnable task, long delay, TimeUnit unit) {
        return scheduler.schedule(carried(task), delay, unit);
    }

    @Override
    public <T> ScheduledFuture<T> schedule(Callable<T> task, long delay, TimeUnit unit) {
        return scheduler.schedule(capture.get().callable(task), delay, unit);
    }

    @Override
    public ScheduledFuture<?> scheduleAtFixedRate(Runnable task, long initialDelay, long period, TimeUnit unit) {
        return scheduler.scheduleAtFixedRate(carried(task), initialDelay, period, unit);
    }

    @Override
    public ScheduledFuture<?> scheduleWithFixedDelay(Runnable task, long initialDelay, long delay, TimeUnit unit) {
        return scheduler.scheduleWithFixedDelay(carried(task), initialDelay, delay, unit);
    }
}
