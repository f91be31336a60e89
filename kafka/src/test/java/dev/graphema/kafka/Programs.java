package dev.graphema.kafka;

import dev.graphema.Graphema;
import dev.graphema.Logger;
import dev.graphema.batch.BatchSink;
import dev.graphema.collector.Collector;
import dev.graphema.collector.CollectorOptions;
import dev.graphema.collector.input.Topic;
import dev.graphema.settings.SinkSettings;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;

/** Programs that run in processes of their own until they are killed. */
final class Programs {
    private Programs() {}

    /** Emits events and prints the number of each batch that is in the topic or in the spool. */
    static final class Service {
        private static final int BATCH = 50;
        private static final int PAUSE_MILLIS = 20;

        private Service() {}

        /**
         * @param arguments addresses of brokers, the topic, the folder of the spool, the name of this run; without a name, it only
         *     sends what the spool has
         */
        public static void main(String[] arguments) throws InterruptedException {
            SinkSettings sink = SinkSettings.of(new KafkaKind())
                    .set(KafkaKind.SERVERS, arguments[0])
                    .set(KafkaKind.TOPIC, arguments[1])
                    .set(KafkaKind.TIMEOUT, Duration.ofSeconds(3))
                    .set(BatchSink.BATCH_WAIT, Duration.ofMillis(20))
                    .set(BatchSink.RETRY_FIRST, Duration.ofMillis(50))
                    .set(BatchSink.RETRY_LONGEST, Duration.ofSeconds(1));
            Graphema graphema = Graphema.isolated(settings ->
                    settings.service("booking").spoolPath(Path.of(arguments[2])).sink("topic", sink));
            Logger log = graphema.logger("skerry.booking");
            if (arguments.length == 3) {
                Thread.sleep(Long.MAX_VALUE);
            }
            for (int batch = 0; true; batch++) {
                Thread.sleep(PAUSE_MILLIS);
                for (int i = 0; i < BATCH; i++) {
                    String name = arguments[3] + "/" + (batch * BATCH + i);
                    log.info(name, f -> f.put("lane", "A3"));
                }
                if (graphema.flush(Duration.ofMinutes(1))) {
                    System.out.println((batch + 1) * BATCH);
                }
            }
        }
    }

    /** Reads a topic and prints the port. */
    static final class ReadingCollector {
        private ReadingCollector() {}

        /** @param arguments addresses of brokers, the topic, the folder of the store, the port */
        public static void main(String[] arguments) throws Exception {
            Topic topic = new Topic(arguments[0], arguments[1], "graphema", null, Duration.ofMinutes(5), null, null);
            Collector collector = Collector.start(CollectorOptions.usual(Path.of(arguments[2]), System.err::println)
                    .port(Integer.parseInt(arguments[3]))
                    .topic(topic));
            System.out.println(collector.port());
            Thread.sleep(Long.MAX_VALUE);
        }
    }

    /** Starts a program. Its problems are appended to a file. */
    static Process start(Class<?> program, Path problems, String... arguments) throws IOException {
        List<String> command = new ArrayList<>(List.of(
                Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                "-Xmx256m",
                "-XX:+UseSerialGC",
                "-XX:TieredStopAtLevel=1",
                "-cp",
                System.getProperty("java.class.path"),
                program.getName()));
        command.addAll(List.of(arguments));
        Process process = new ProcessBuilder(command)
                .redirectError(ProcessBuilder.Redirect.appendTo(problems.toFile()))
                .start();
        Runtime.getRuntime().addShutdownHook(new Thread(process::destroyForcibly));
        return process;
    }

    static BufferedReader output(Process process) {
        return new BufferedReader(new InputStreamReader(process.getInputStream(), StandardCharsets.UTF_8));
    }
}
