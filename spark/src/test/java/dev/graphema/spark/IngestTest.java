package dev.graphema.spark;

import static org.awaitility.Awaitility.await;
import static org.junit.jupiter.api.Assertions.assertEquals;

import dev.graphema.engines.Broker;
import dev.graphema.query.Question;
import dev.graphema.query.source.QueryExecutor;
import dev.graphema.spark.job.Ingest;
import java.io.File;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Random;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.Future;
import java.util.concurrent.TimeUnit;
import java.util.function.Supplier;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.apache.kafka.clients.admin.Admin;
import org.apache.kafka.clients.admin.NewTopic;
import org.apache.kafka.clients.producer.KafkaProducer;
import org.apache.kafka.clients.producer.ProducerRecord;
import org.apache.kafka.common.serialization.ByteArraySerializer;
import org.apache.spark.sql.Encoders;
import org.apache.spark.sql.streaming.StreamingQueryException;
import org.apache.spark.sql.streaming.Trigger;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.io.TempDir;

/** From a topic of a real broker into a lake. */
@Timeout(3600)
class IngestTest {
    /** {@code -Dkills=50} kills the job more often, {@code -Dseed} at other moments. */
    private static final int KILLS = Integer.getInteger("kills", 1);

    /** {@code -Devents=1000000} measures with more of them. */
    private static final int MANY = Integer.getInteger("events", 1_000);

    @TempDir
    private static Path common;

    private static Broker broker;

    @TempDir
    private Path folder;

    @BeforeAll
    static void startBroker() throws IOException {
        broker = Broker.start(EngineLibraries.KAFKA, common);
    }

    @AfterAll
    static void closeBroker() throws IOException {
        broker.close();
    }

    private static void create(String topic) throws IOException {
        try (Admin admin = Admin.create(Map.of("bootstrap.servers", broker.address()))) {
            admin.createTopics(List.of(new NewTopic(topic, 3, (short) 1))).all().get();
        } catch (InterruptedException | ExecutionException e) {
            throw new IOException(e);
        }
    }

    private static void send(String topic, List<String> values) throws IOException {
        ByteArraySerializer bytes = new ByteArraySerializer();
        try (KafkaProducer<byte[], byte[]> producer =
                new KafkaProducer<>(Map.of("bootstrap.servers", broker.address()), bytes, bytes)) {
            List<Future<?>> sent = new ArrayList<>();
            for (String each : values) {
                byte[] value = each == null ? null : each.getBytes(StandardCharsets.UTF_8);
                sent.add(producer.send(new ProducerRecord<>(topic, null, value)));
            }
            for (Future<?> each : sent) {
                each.get();
            }
        } catch (InterruptedException | ExecutionException e) {
            throw new IOException(e);
        }
    }

    private static List<String> lines(int from, int to) {
        return IntStream.range(from, to)
                .mapToObj(i ->
                        ("{\"time\":\"2026-05-15T%02d:%02d:02.000000000Z\",\"level\":\"info\",\"message\":\"seat held\","
                                        + "\"id\":\"00000000000000a1-%d\",\"fields\":{\"number\":%d}}")
                                .formatted(i / 60 % 24, i % 60, i + 1, i))
                .toList();
    }

    private Lake lake() throws IOException {
        return Lake.create(Sessions.local(), folder.resolve("lake").toString(), List.of("number"));
    }

    private void ingest(String topic) throws IOException {
        Ingest job =
                new Ingest(broker.address(), topic, folder.resolve("checkpoint").toString(), Map.of());
        try {
            job.start(Sessions.local(), lake(), Trigger.AvailableNow()).awaitTermination();
        } catch (StreamingQueryException e) {
            throw new IOException(e);
        }
    }

    private long count(String condition) throws IOException {
        return QueryExecutor.answer(Question.where(condition).newest(0), LakeSource.of(lake()))
                .matching();
    }

    @Test
    void everyRecordIsInTheLakeOnce() throws IOException {
        create("once");
        send("once", lines(0, 500));
        ingest("once");
        assertEquals(500, count(""));
        send("once", lines(400, 600)); // some of them again, as after an unclear failure
        ingest("once");
        ingest("once");
        assertEquals(600, count(""));
        assertEquals(100, count("number >= 500"));
        send("once", List.of("gate closed", "{\"ts\":\"2026-05-15T06:31:03Z\",\"msg\":\"one\"}\n{\"msg\":\"two\"}\n"));
        List<String> nothing = new ArrayList<>();
        nothing.add(null);
        nothing.add("");
        send("once", nothing);
        ingest("once");
        assertEquals(603, count(""));
        assertEquals(1, count("message = \"gate closed\" and time exists"));
        assertEquals(1, count("message = two"));
    }

    @Test
    void manyRecordsAreRead() throws IOException {
        create("many");
        send("many", lines(0, MANY));
        ingest("many"); // Spark is slow when it reads for the first time
        send("many", lines(MANY, 2 * MANY));
        long begin = System.nanoTime();
        ingest("many");
        System.out.printf(
                Locale.ROOT,
                "%d events read into a lake with %.0f per second%n",
                MANY,
                MANY / ((System.nanoTime() - begin) / 1e9));
        assertEquals(2L * MANY, count(""));
    }

    @Test
    void aKilledJobLosesAndRepeatsNothing() throws Exception {
        long seed = Long.getLong("seed", System.nanoTime());
        Random random = new Random(seed);
        create("killed");
        int sent = 0;
        for (int kill = 0; kill < KILLS; kill++) {
            int files = files();
            Process job = ingesting();
            for (int i = 0; i < 3; i++) {
                send("killed", lines(sent, sent + 400));
                sent += 400;
                TimeUnit.MILLISECONDS.sleep(random.nextInt(4_000));
            }
            if (kill % 2 == 0) {
                await().atMost(Duration.ofMinutes(5)).until(() -> files() > files);
                TimeUnit.MILLISECONDS.sleep(random.nextInt(4_000));
            }
            kill(job);
        }
        ingest("killed");
        assertEquals(sent, count(""), "seed " + seed);
        assertEquals(
                sent,
                Sessions.local()
                        .createDataset(numbers(), Encoders.LONG())
                        .distinct()
                        .count());
        Process asking =
                start(ClusterPrograms.Asking.class, folder.resolve("lake").toString());
        assertEquals(
                List.of(sent - 10 + "", "[null, info] " + sent),
                asking.inputReader().lines().toList(),
                problems());
        System.out.println(KILLS + " kills of a job of Spark, seed " + seed + ": " + sent
                + " events sent through a topic into a lake, none lost or doubled");
    }

    /** Returns the number of files of the lake. */
    private int files() throws IOException {
        return lake().files().current().size();
    }

    private List<Long> numbers() throws IOException {
        return lake().events().select("number_number").collectAsList().stream()
                .map(row -> (long) row.getDouble(0))
                .toList();
    }

    private static void kill(Process job) throws InterruptedException {
        List<ProcessHandle> all = Stream.concat(job.toHandle().descendants(), Stream.of(job.toHandle()))
                .toList();
        all.forEach(ProcessHandle::destroyForcibly);
        job.waitFor();
    }

    private Process ingesting() throws IOException {
        Process job = start(
                ClusterPrograms.Ingesting.class,
                broker.address(),
                "killed",
                folder.resolve("lake").toString(),
                folder.resolve("checkpoint").toString());
        assertEquals("started", job.inputReader().readLine(), problems());
        return job;
    }

    private Supplier<String> problems() {
        return () -> {
            try {
                return Files.readString(folder.resolve("problems"));
            } catch (IOException e) {
                return e.toString();
            }
        };
    }

    private Process start(Class<?> program, String... arguments) throws IOException {
        Path home = Files.createDirectories(folder.resolve("spark"));
        if (!Files.exists(home.resolve("jars"))) {
            Files.createSymbolicLink(home.resolve("jars"), EngineLibraries.SPARK);
        }
        List<String> command = new ArrayList<>(
                List.of(Path.of(System.getProperty("java.home"), "bin", "java").toString(), "-Xmx512m"));
        command.addAll(List.of(System.getProperty("spark.opened").split(" ")));
        command.addAll(List.of("-cp", System.getProperty("java.class.path"), program.getName(), classPathOfWorkers()));
        command.addAll(List.of(arguments));
        ProcessBuilder builder = new ProcessBuilder(command)
                .redirectError(ProcessBuilder.Redirect.appendTo(
                        folder.resolve("problems").toFile()));
        builder.environment().put("SPARK_HOME", home.toString());
        builder.environment().put("SPARK_LOCAL_IP", "127.0.0.1");
        builder.environment().put("SPARK_SCALA_VERSION", "2.13"); // as the scripts of an installation do
        builder.directory(home.toFile());
        return builder.start();
    }

    /** Returns what an installation of Spark does not have. */
    private static String classPathOfWorkers() {
        return Stream.of(System.getProperty("java.class.path").split(File.pathSeparator))
                .filter(each -> each.endsWith("/classes")
                        || each.matches(".*/(graphema-|re2j-|snakeyaml-engine-|jctools-)[^/]*\\.jar"))
                .collect(Collectors.joining(File.pathSeparator));
    }
}
