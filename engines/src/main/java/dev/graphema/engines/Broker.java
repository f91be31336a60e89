package dev.graphema.engines;

import java.io.Closeable;
import java.io.File;
import java.io.IOException;
import java.net.ServerSocket;
import java.net.Socket;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.concurrent.TimeUnit;

/** A real broker of Kafka in a process of its own, alone or as one of several. For one thread. */
public final class Broker implements Closeable {
    private static final long START_SECONDS = 120;
    private static final long END_SECONDS = 20;
    private static final String CLUSTER = "c2tlcnJ5bGluZS1mZXJyeQ"; // 16 bytes in base64, as the format expects

    private final Path libraries;
    private final Path folder;
    private final int port;
    private final Path settings;
    private Process process;

    private Broker(Path libraries, Path folder, int port, Path settings) {
        this.libraries = libraries;
        this.folder = folder;
        this.port = port;
        this.settings = settings;
    }

    /**
     * Starts a broker.
     *
     * @param libraries the folder with its libraries
     * @param folder the folder for its data
     */
    public static Broker start(Path libraries, Path folder) throws IOException {
        return start(libraries, folder, 1).get(0);
    }

    /** Starts several brokers of one cluster, each with a folder of its own in the given one. */
    public static List<Broker> start(Path libraries, Path folder, int count) throws IOException {
        int[] ports = freePorts(2 * count);
        List<Broker> brokers = new ArrayList<>();
        for (int i = 0; i < count; i++) {
            Path own = Files.createDirectories(folder.resolve("broker-" + (i + 1)));
            Broker broker = new Broker(libraries, own, ports[2 * i], own.resolve("server.properties"));
            Files.write(broker.settings, settings(own, ports, i));
            broker.run("kafka.tools.StorageTool", "format", "-t", CLUSTER, "-c", broker.settings.toString());
            brokers.add(broker);
        }
        for (Broker each : brokers) {
            each.launch();
        }
        for (Broker each : brokers) {
            each.awaitStart();
        }
        return brokers;
    }

    private static List<String> settings(Path folder, int[] ports, int index) {
        StringBuilder voters = new StringBuilder();
        int count = ports.length / 2;
        for (int i = 0; i < count; i++) {
            voters.append(i == 0 ? "" : ",").append(i + 1).append("@127.0.0.1:").append(ports[2 * i + 1]);
        }
        int replicas = Math.min(3, count);
        Map<String, Object> all = new TreeMap<>();
        all.put("process.roles", "broker,controller");
        all.put("node.id", index + 1);
        all.put("controller.quorum.voters", voters);
        all.put(
                "listeners",
                "PLAINTEXT://127.0.0.1:" + ports[2 * index] + ",CONTROLLER://127.0.0.1:" + ports[2 * index + 1]);
        all.put("controller.listener.names", "CONTROLLER");
        all.put("log.dirs", folder.resolve("data"));
        all.put("offsets.topic.replication.factor", replicas);
        all.put("offsets.topic.num.partitions", 4);
        all.put("transaction.state.log.replication.factor", replicas);
        all.put("transaction.state.log.min.isr", 1);
        all.put("default.replication.factor", replicas);
        all.put("min.insync.replicas", Math.min(2, count));
        all.put("num.partitions", 4);
        all.put("group.initial.rebalance.delay.ms", 0);
        List<String> lines = new ArrayList<>();
        all.forEach((name, value) -> lines.add(name + "=" + value));
        return lines;
    }

    private static int[] freePorts(int count) throws IOException {
        List<ServerSocket> sockets = new ArrayList<>();
        try {
            for (int i = 0; i < count; i++) {
                sockets.add(new ServerSocket(0));
            }
            return sockets.stream().mapToInt(ServerSocket::getLocalPort).toArray();
        } finally {
            for (ServerSocket each : sockets) {
                each.close();
            }
        }
    }

    private ProcessBuilder java(String... arguments) {
        List<String> command = new ArrayList<>(List.of(
                Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                "-Xmx384m",
                "-XX:+UseSerialGC",
                "-XX:TieredStopAtLevel=1",
                "-cp",
                libraries + File.separator + "*"));
        command.addAll(List.of(arguments));
        return new ProcessBuilder(command)
                .redirectErrorStream(true)
                .redirectOutput(ProcessBuilder.Redirect.appendTo(output().toFile()));
    }

    private Path output() {
        return folder.resolve("output");
    }

    private void run(String... arguments) throws IOException {
        try {
            Process running = java(arguments).start();
            if (!running.waitFor(START_SECONDS, TimeUnit.SECONDS) || running.exitValue() != 0) {
                throw new IOException(arguments[0] + " failed: " + Files.readString(output()));
            }
        } catch (InterruptedException e) {
            throw new IOException("interrupted", e);
        }
    }

    private void launch() throws IOException {
        process = java("kafka.Kafka", settings.toString()).start();
        // A test that is killed should not leave it behind.
        Process launched = process;
        Runtime.getRuntime().addShutdownHook(new Thread(launched::destroyForcibly));
    }

    private void awaitStart() throws IOException {
        long by = System.nanoTime() + TimeUnit.SECONDS.toNanos(START_SECONDS);
        while (System.nanoTime() < by && process.isAlive()) {
            try (Socket socket = new Socket("127.0.0.1", port)) {
                return;
            } catch (IOException e) {
                pause(); // not yet
            }
        }
        process.destroyForcibly();
        throw new IOException("the broker did not start: " + Files.readString(output()));
    }

    private static void pause() throws IOException {
        try {
            TimeUnit.MILLISECONDS.sleep(100);
        } catch (InterruptedException e) {
            throw new IOException("interrupted", e);
        }
    }

    /** Returns its address: {@code 127.0.0.1:9092}. */
    public String address() {
        return "127.0.0.1:" + port;
    }

    /** Ends it at once, as a power failure would. */
    public void kill() throws IOException {
        process.destroyForcibly();
        await();
    }

    /** Starts it again with what it has stored. */
    public void restart() throws IOException {
        launch();
        awaitStart();
    }

    private void await() throws IOException {
        try {
            if (!process.waitFor(END_SECONDS, TimeUnit.SECONDS)) {
                process.destroyForcibly().waitFor();
            }
        } catch (InterruptedException e) {
            throw new IOException("interrupted", e);
        }
    }

    @Override
    public void close() throws IOException {
        process.destroy();
        await();
    }
}
