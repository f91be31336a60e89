package dev.graphema.background;

/**
 * Makes daemon threads that hold on to nothing of the thread that makes them: neither its context class loader nor its
 * inheritable thread-local values. Otherwise a thread that outlives a part of the program, such as a web application that is
 * undeployed, would keep all classes of that part in memory.
 */
public final class BackgroundThreads {
    private BackgroundThreads() {}

    /** A daemon thread, not started. */
    public static Thread daemon(String name, Runnable task) {
        return prepared(new Thread(null, task, name, 0, false));
    }

    /** Makes a thread, which must not be started yet, a daemon without a context class loader of the program. */
    public static <T extends Thread> T prepared(T thread) {
        thread.setDaemon(true);
        thread.setContextClassLoader(ClassLoader.getSystemClassLoader());
        return thread;
    }
}
