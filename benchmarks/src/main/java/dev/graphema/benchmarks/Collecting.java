package dev.graphema.benchmarks;

import com.sun.management.OperatingSystemMXBean;
import dev.graphema.collector.Collector;
import dev.graphema.collector.CollectorOptions;
import dev.graphema.query.Question;
import dev.graphema.query.answer.CountTable;
import dev.graphema.query.source.EventSource;
import dev.graphema.query.source.QueryExecutor;
import dev.graphema.remote.RemoteSource;
import dev.graphema.segments.store.Store;
import dev.graphema.segments.store.StoreOptions;
import dev.graphema.segments.store.StoreSource;
import io.opentelemetry.proto.collector.logs.v1.ExportLogsServiceRequest;
import io.opentelemetry.proto.common.v1.AnyValue;
import io.opentelemetry.proto.common.v1.KeyValue;
import io.opentelemetry.proto.logs.v1.LogRecord;
import io.opentelemetry.proto.logs.v1.ResourceLogs;
import io.opentelemetry.proto.logs.v1.ScopeLogs;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.lang.management.ManagementFactory;
import java.net.InetSocketAddress;
import java.net.Socket;
import java.net.StandardSocketOptions;
import java.nio.ByteBuffer;
import java.nio.channels.SelectionKey;
import java.nio.channels.Selector;
import java.nio.channels.SocketChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;
import java.util.zip.GZIPOutputStream;

/** The collector over loopback, beside its store without HTTP. Senders, readers and the server are one process. */
final class Collecting {
    private static final String PART = "collector";
    private static final int SENDERS = 8;
    private static final int LINES = 100;
    private static final int ROUNDS = 2;
    private static final long ROUND_NANOS = TimeUnit.SECONDS.toNanos(3);
    private static final int SETTLING_SECONDS = 5;
    private static final int READERS = 1_000;
    private static final int SECONDS_OF_READING = 10;
    private static final int ASKED = 20;
    private static final OperatingSystemMXBean PROCESS =
            ManagementFactory.getPlatformMXBean(OperatingSystemMXBean.class);

    private final Path folder;
    private final List<Figure> figures = new ArrayList<>();

    private Collecting(Path folder) {
        this.folder = folder;
    }

    static List<Figure> figures() throws Exception {
        Path folder = Files.createTempDirectory("graphema-benchmark");
        try {
            Collecting collecting = new Collecting(folder);
            collecting.sending();
            collecting.asking();
            collecting.watching();
            return collecting.figures;
        } finally {
            try (Stream<Path> files = Files.walk(folder)) {
                files.sorted(Comparator.reverseOrder())
                        .forEach(file -> file.toFile().delete());
            }
        }
    }

    private Collector collector(String store, boolean isStamping) throws IOException {
        return Collector.start(CollectorOptions.usual(folder.resolve(store), System.err::println)
                .port(0)
                .stamping(isStamping));
    }

    /** A line of about 300 bytes. */
    private static String line(int number) {
        return "{\"time\":\""
                + Instant.now()
                        .truncatedTo(java.time.temporal.ChronoUnit.SECONDS)
                        .toString()
                        .replace("Z", "")
                + ".%09dZ\"".formatted(number * 1_000_003L % 1_000_000_000)
                + ",\"level\":\"info\",\"service\":\"deck\",\"instance\":\"deck-2\",\"logger\":\"skerry.deck.Lanes\",\"message\":\"reserve lanes\","
                + "\"trace\":\"%032x\",\"span\":\"%016x\",\"thread\":\"deck-2-3\""
                        .formatted(number * 7_919L + 1, number + 1)
                + ",\"sequence\":" + number + ",\"fields\":{\"lane\":\"A" + number % 9 + "\",\"elapsed\":\"PT0."
                + number % 900 + "S\"}}\n";
    }

    private static byte[] lines(int from) {
        StringBuilder lines = new StringBuilder();
        for (int i = 0; i < LINES; i++) {
            lines.append(line(from + i));
        }
        return lines.toString().getBytes(StandardCharsets.UTF_8);
    }

    private static byte[] records(int from) {
        ScopeLogs.Builder scope = ScopeLogs.newBuilder();
        for (int i = 0; i < LINES; i++) {
            int number = from + i;
            scope.addLogRecords(LogRecord.newBuilder()
                    .setTimeUnixNano(System.currentTimeMillis() * 1_000_000 + number)
                    .setSeverityNumberValue(9)
                    .setBody(AnyValue.newBuilder().setStringValue("reserve lanes"))
                    .addAttributes(KeyValue.newBuilder()
                            .setKey("lane")
                            .setValue(AnyValue.newBuilder().setStringValue("A" + number % 9)))
                    .addAttributes(KeyValue.newBuilder()
                            .setKey("elapsed_ms")
                            .setValue(AnyValue.newBuilder().setIntValue(number % 900))));
        }
        return ExportLogsServiceRequest.newBuilder()
                .addResourceLogs(ResourceLogs.newBuilder().addScopeLogs(scope))
                .build()
                .toByteArray();
    }

    private static byte[] gzipped(byte[] bytes) {
        ByteArrayOutputStream to = new ByteArrayOutputStream();
        try (GZIPOutputStream gzip = new GZIPOutputStream(to)) {
            gzip.write(bytes);
        } catch (IOException e) {
            throw new IllegalStateException(e);
        }
        return to.toByteArray();
    }

    /** Returns bodies with lines of the present time. */
    static byte[][] zippedBodies(int count) {
        byte[][] bodies = new byte[count][];
        for (int i = 0; i < count; i++) {
            bodies[i] = gzipped(lines(i * LINES));
        }
        return bodies;
    }

    private interface Sender {
        void send(int number) throws IOException;
    }

    /** Returns the events per second of all senders together, the best of some rounds. */
    private static double perSecond(Callable<Sender> senders) throws Exception {
        // What was measured before has written gigabytes, which the disk must have first.
        new ProcessBuilder("sync").start().waitFor();
        TimeUnit.SECONDS.sleep(SETTLING_SECONDS);
        ExecutorService executor = Executors.newFixedThreadPool(SENDERS);
        double best = 0;
        List<Sender> all = new ArrayList<>();
        for (int i = 0; i < SENDERS; i++) {
            all.add(senders.call());
        }
        for (int round = 0; round < ROUNDS; round++) {
            long begin = System.nanoTime();
            List<Future<Long>> sent = new ArrayList<>();
            for (Sender sender : all) {
                sent.add(executor.submit(() -> {
                    int count = 0;
                    while (System.nanoTime() - begin < ROUND_NANOS) {
                        sender.send(count++);
                    }
                    return (long) count * LINES;
                }));
            }
            long events = 0;
            for (Future<Long> each : sent) {
                events += each.get();
            }
            best = Math.max(best, events * 1e9 / (System.nanoTime() - begin));
        }
        executor.shutdown();
        return best;
    }

    private void sending() throws Exception {
        byte[][] bodies = new byte[64][];
        byte[][] zipped = new byte[64][];
        byte[][] otlp = new byte[64][];
        for (int i = 0; i < bodies.length; i++) {
            bodies[i] = lines(i * LINES);
            zipped[i] = gzipped(bodies[i]);
            otlp[i] = gzipped(records(i * LINES));
        }
        double appended;
        try (Store store = Store.open(folder.resolve("direct"), StoreOptions.usual(System.err::println))) {
            appended = perSecond(() -> number -> store.append(bodies[number % bodies.length]));
        }
        Figure append = Figure.alone(PART, "append to the store", appended, "events/s");
        figures.add(append);
        double sent;
        try (Collector collector = collector("lines", false)) {
            sent = perSecond(() -> new HttpSender(collector.port(), "/lines", "text/plain", zipped));
        }
        figures.add(Figure.alone(PART, "lines over HTTP, gzip", sent, "events/s")
                .beside(append)
                .atLeast(0.5));
        try (Collector collector = collector("stamped", true)) {
            double stamped = perSecond(() -> new HttpSender(collector.port(), "/lines", "text/plain", zipped));
            figures.add(Figure.alone(PART, "lines with source and arrival", stamped, "events/s")
                    .beside(append)
                    .atLeast(0.5));
        }
        try (Collector collector = collector("otlp", false)) {
            double records =
                    perSecond(() -> new HttpSender(collector.port(), "/v1/logs", "application/x-protobuf", otlp));
            figures.add(Figure.alone(PART, "OTLP protobuf, gzip", records, "events/s")
                    .beside("lines over HTTP, gzip", sent)
                    .atLeast(0.7));
        }
    }

    /** A connection on which bodies are sent one after the other. */
    static final class HttpSender implements Sender {
        private final OutputStream out;
        private final InputStream in;
        private final byte[][] requests;
        private final String head;
        private final byte[] answer = new byte[4096];

        HttpSender(int port, String path, String mediaType, byte[][] bodies) throws IOException {
            Socket socket = new Socket("127.0.0.1", port);
            socket.setTcpNoDelay(true);
            out = socket.getOutputStream();
            in = socket.getInputStream();
            requests = new byte[bodies.length][];
            head = "POST " + path + " HTTP/1.1\r\nHost: 127.0.0.1:" + port + "\r\nContent-Type: " + mediaType
                    + "\r\nContent-Encoding: gzip\r\nContent-Length: ";
            renew(bodies);
        }

        /** Sends these bodies from now on. */
        void renew(byte[][] bodies) {
            for (int i = 0; i < bodies.length; i++) {
                byte[] begin = (head + bodies[i].length + "\r\n\r\n").getBytes(StandardCharsets.US_ASCII);
                requests[i] = Arrays.copyOf(begin, begin.length + bodies[i].length);
                System.arraycopy(bodies[i], 0, requests[i], begin.length, bodies[i].length);
            }
        }

        @Override
        public void send(int number) throws IOException {
            out.write(requests[number % requests.length]);
            int count = in.read(answer);
            String text = new String(answer, 0, Math.max(0, count), StandardCharsets.US_ASCII);
            if (!text.startsWith("HTTP/1.1 200")) {
                throw new IOException(text);
            }
        }
    }

    private void asking() throws Exception {
        try (Collector collector = collector("stamped", true)) {
            EventSource direct = StoreSource.at(folder.resolve("stamped"));
            EventSource remote = RemoteSource.at(collector.address(), null);
            double[] millis = new double[2];
            for (int round = 0; round < ASKED; round++) {
                for (int i = 0; i < 2; i++) {
                    long begin = System.nanoTime();
                    CountTable table = QueryExecutor.answer(
                            Question.where("level >= info").counts("lane"), i == 0 ? direct : remote);
                    double took = (System.nanoTime() - begin) / 1e6;
                    if (table.rows().isEmpty()) {
                        throw new IllegalStateException("no rows");
                    }
                    millis[i] = round == 0 ? took : Math.min(millis[i], took);
                }
            }
            figures.add(Figure.atMost(30, PART, "more for a question over HTTP", millis[1] - millis[0], "ms"));
        }
    }

    private void watching() throws Exception {
        try (Collector collector = collector("live", false)) {
            try (Selector selector = Selector.open()) {
                for (int i = 0; i < READERS; i++) {
                    SocketChannel channel = SocketChannel.open(new InetSocketAddress("127.0.0.1", collector.port()));
                    channel.setOption(StandardSocketOptions.TCP_NODELAY, true);
                    channel.write(ByteBuffer.wrap(("GET /live?where=sequence+%3E%3D+0 HTTP/1.1\r\nHost: 127.0.0.1:"
                                    + collector.port() + "\r\n\r\n")
                            .getBytes(StandardCharsets.US_ASCII)));
                    channel.configureBlocking(false);
                    channel.register(selector, SelectionKey.OP_READ);
                }
                HttpSender sender = new HttpSender(collector.port(), "/lines", "text/plain", new byte[][] {
                    gzipped(line(1).getBytes(StandardCharsets.UTF_8))
                });
                read(selector, 3); // the answers, and the first events, which are compiled
                sender.send(0);
                read(selector, 2);
                long cpu = PROCESS.getProcessCpuTime();
                long begin = System.nanoTime();
                long events = 0;
                for (int second = 0; second < SECONDS_OF_READING; second++) {
                    sender.send(0);
                    events += read(selector, 1);
                }
                double cores = (PROCESS.getProcessCpuTime() - cpu) / (double) (System.nanoTime() - begin);
                figures.add(Figure.alone(PART, "events read by 1,000 live readers", events, "in 10 s"));
                figures.add(Figure.atMost(0.2, PART, "1,000 live readers, with clients", cores, "cores"));
            }
        }
    }

    /** Reads for some seconds; returns the number of events. */
    private static long read(Selector selector, int seconds) throws IOException {
        long end = System.nanoTime() + TimeUnit.SECONDS.toNanos(seconds);
        ByteBuffer buffer = ByteBuffer.allocate(1 << 14);
        long events = 0;
        long left;
        while ((left = (end - System.nanoTime()) / 1_000_000) > 0) {
            selector.select(left);
            for (SelectionKey key : selector.selectedKeys()) {
                buffer.clear();
                ((SocketChannel) key.channel()).read(buffer);
                String text = new String(buffer.array(), 0, buffer.position(), StandardCharsets.UTF_8);
                for (int at = text.indexOf("data:"); at >= 0; at = text.indexOf("data:", at + 1)) {
                    events++;
                }
            }
            selector.selectedKeys().clear();
        }
        return events;
    }
}
