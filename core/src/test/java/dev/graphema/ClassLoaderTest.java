package dev.graphema;

import static org.junit.jupiter.api.Assertions.assertEquals;

import java.io.File;
import java.lang.ref.WeakReference;
import java.net.URL;
import java.net.URLClassLoader;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import org.awaitility.Awaitility;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A part of a program, such as a web application, that contains the library and is removed again. */
class ClassLoaderTest {
    @TempDir
    Path folder;

    @Test
    void noThreadKeepsTheClassesOfAClosedRuntimeInMemory() throws Exception {
        ExecutorService pool = Executors.newFixedThreadPool(1); // as a server's, it lives on
        List<WeakReference<ClassLoader>> loaders = new ArrayList<>();
        for (int i = 0; i < 10; i++) {
            int number = i;
            pool.submit(() -> {
                        loaders.add(used(number));
                        return null;
                    })
                    .get();
        }
        Awaitility.await().untilAsserted(() -> {
            System.gc();
            assertEquals(
                    0, loaders.stream().filter(loader -> loader.get() != null).count());
        });
        pool.shutdown();
    }

    private WeakReference<ClassLoader> used(int number) throws Exception {
        List<URL> urls = new ArrayList<>();
        for (String path : System.getProperty("java.class.path").split(File.pathSeparator)) {
            urls.add(Path.of(path).toUri().toURL());
        }
        URLClassLoader loader = new URLClassLoader(urls.toArray(URL[]::new), ClassLoader.getPlatformClassLoader());
        Thread thread = Thread.currentThread();
        ClassLoader before = thread.getContextClassLoader();
        thread.setContextClassLoader(loader);
        try {
            Class<?> program = loader.loadClass(Program.class.getName());
            program.getMethod("run", Path.class).invoke(null, folder.resolve("log" + number + ".jsonl"));
        } finally {
            thread.setContextClassLoader(before);
        }
        return new WeakReference<>(loader);
    }

    /** Loaded anew each time. */
    public static final class Program {
        public static void run(Path file) {
            try (Graphema graphema = Graphema.build(settings -> settings.file("log", file))) {
                Logger log = Logger.named("skerry");
                try (Scope scope = Context.open(f -> f.put("booking", "B0047113"));
                        Operation operation = log.operation("work")) {
                    log.error("failed", new IllegalStateException());
                    graphema.threshold("skerry", dev.graphema.event.Level.DEBUG, java.time.Duration.ofHours(1));
                    operation.succeed();
                }
            }
        }
    }
}
