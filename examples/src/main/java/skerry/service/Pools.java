package skerry.service;

import dev.graphema.Context;
import java.lang.reflect.InvocationTargetException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.ThreadFactory;

/** Executors whose tasks run in the context and trace of the submitting thread. */
public final class Pools {
    private Pools() {}

    /** Returns a pool of platform threads. */
    public static ExecutorService pooled(int threads) {
        return Context.carry(Executors.newFixedThreadPool(threads, daemons()));
    }

    /** Returns an executor with a thread per task: a virtual one from Java 21 on. */
    public static ThreadFactory perTask() {
        return Context.carryInto(virtualThreads());
    }

    private static ThreadFactory virtualThreads() {
        try {
            Object builder = Thread.class.getMethod("ofVirtual").invoke(null);
            return (ThreadFactory) Class.forName("java.lang.Thread$Builder")
                    .getMethod("factory")
                    .invoke(builder);
        } catch (NoSuchMethodException | ClassNotFoundException e) {
            return daemons();
        } catch (IllegalAccessException | InvocationTargetException e) {
            throw new IllegalStateException("this Java has virtual threads, but none can be made", e);
        }
    }

    private static ThreadFactory daemons() {
        return task -> {
            Thread thread = new Thread(task);
            thread.setDaemon(true);
            return thread;
        };
    }
}
