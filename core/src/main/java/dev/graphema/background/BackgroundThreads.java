package dev.graphema.background;

/**
 * Creates daemon threads that do not inherit the context class loader and thread-local values of the creating thread.
 * Otherwise, a thread that outlives a part of the program, such as an undeployed web application, would keep all
 * classes of that part in memory.
 */
public final class BackgroundThreads {
    private BackgroundThreads() {}

    /** Creates a daemon thread that is not started. */
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
