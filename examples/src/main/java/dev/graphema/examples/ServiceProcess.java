package dev.graphema.examples;

import java.io.BufferedReader;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.TimeUnit;
import java.util.function.Consumer;
import skerry.service.Harbour;

/** A service of Skerry Line in its own process. */
final class ServiceProcess {
    private static final long LONGEST_START_SECONDS = 300;
    private static final long LONGEST_STOP_SECONDS = 120;

    private final String instance;
    private final Harbour harbour;
    private final Process process;
    private final Thread screen;

    private ServiceProcess(String instance, Harbour harbour, Process process, Thread screen) {
        this.instance = instance;
        this.harbour = harbour;
        this.process = process;
        this.screen = screen;
    }

    /**
     * Starts a service with the Java and class path of this process, and waits until it serves requests.
     *
     * @param screen receives each line of its output
     */
    static ServiceProcess start(
            Class<?> main, String instance, String release, Path folder, Harbour harbour, Consumer<String> screen)
            throws IOException, InterruptedException {
        List<String> command = new ArrayList<>();
        command.add(Path.of(System.getProperty("java.home"), "bin", "java").toString());
        // Five of them share one machine: the cheapest collector and compiler start fastest.
        command.addAll(List.of("-XX:+UseSerialGC", "-XX:TieredStopAtLevel=1", "-Xmx128m"));
        command.addAll(List.of("-cp", System.getProperty("java.class.path"), main.getName()));
        ProcessBuilder builder = new ProcessBuilder(command).redirectErrorStream(true);
        builder.environment()
                .putAll(Map.of(
                        "SKERRY_INSTANCE", instance, "SKERRY_RELEASE", release, "SKERRY_FOLDER", folder.toString()));
        harbour.forget(instance);
        Process process = builder.start();
        ServiceProcess service = new ServiceProcess(instance, harbour, process, forward(process, screen));
        service.awaitStart();
        return service;
    }

    private void awaitStart() throws IOException, InterruptedException {
        long deadline = System.nanoTime() + TimeUnit.SECONDS.toNanos(LONGEST_START_SECONDS);
        while (!harbour.has(instance)) {
            if (!process.isAlive()) {
                throw new IOException("the service " + instance + " ended with exit code " + process.exitValue()
                        + " before it served; its last lines are above");
            }
            if (System.nanoTime() > deadline) {
                process.destroyForcibly();
                throw new IOException(
                        "the service " + instance + " did not serve within " + LONGEST_START_SECONDS + " s");
            }
            TimeUnit.MILLISECONDS.sleep(10);
        }
    }

    /** Terminates the process, and waits for its end. */
    void stop() throws IOException, InterruptedException {
        process.destroy();
        if (!process.waitFor(LONGEST_STOP_SECONDS, TimeUnit.SECONDS)) {
            process.destroyForcibly();
            throw new IOException("the service " + instance + " did not end within " + LONGEST_STOP_SECONDS + " s");
        }
        screen.join();
        harbour.forget(instance);
    }

    private static Thread forward(Process process, Consumer<String> screen) {
        Thread thread = new Thread(() -> {
            try (BufferedReader lines = process.inputReader(StandardCharsets.UTF_8)) {
                for (String line; (line = lines.readLine()) != null; ) {
                    screen.accept(line);
                }
            } catch (IOException e) {
                screen.accept("(what " + process.pid() + " showed further cannot be read: " + e + ")");
            }
        });
        thread.setDaemon(true);
        thread.start();
        return thread;
    }
}
