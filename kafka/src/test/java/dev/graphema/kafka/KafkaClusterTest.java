package dev.graphema.kafka;

import static org.awaitility.Awaitility.await;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.Graphema;
import dev.graphema.Logger;
import dev.graphema.batch.BatchSink;
import dev.graphema.collector.Collector;
import dev.graphema.collector.CollectorOptions;
import dev.graphema.collector.input.Topic;
import dev.graphema.engines.Broker;
import dev.graphema.query.Question;
import dev.graphema.query.source.QueryExecutor;
import dev.graphema.remote.RemoteSource;
import dev.graphema.settings.SinkSettings;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.stream.Collectors;
import org.apache.kafka.clients.admin.Admin;
import org.apache.kafka.clients.admin.NewTopic;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.io.TempDir;

/** Three brokers, one of which fails: the others lead its partitions. */
class KafkaClusterTest {
    private static final Duration LIMIT = Duration.ofMinutes(3);

    @TempDir
    private Path folder;

    @Test
    @Timeout(900)
    void aNewLeaderContinuesWithoutLossAndRepetition() throws Exception {
        List<Broker> brokers = Broker.start(BrokerLibraries.required(), folder, 3);
        String servers = brokers.stream().map(Broker::address).collect(Collectors.joining(","));
        try (Admin admin = Admin.create(Map.of("bootstrap.servers", servers))) {
            admin.createTopics(List.of(new NewTopic("led", 6, (short) 3))).all().get();
        }
        SinkSettings sink = SinkSettings.of(new KafkaKind())
                .set(KafkaKind.SERVERS, servers)
                .set(KafkaKind.TOPIC, "led")
                .set(BatchSink.RETRY_LONGEST, Duration.ofSeconds(1));
        List<String> problems = new CopyOnWriteArrayList<>();
        CollectorOptions options = CollectorOptions.usual(folder.resolve("store"), problems::add)
                .port(0)
                .topic(new Topic(servers, "led", "graphema", null, Topic.TAKEOVER, null, null));
        try (Graphema graphema = Graphema.isolated(
                        settings -> settings.spoolPath(folder.resolve("spool")).sink("topic", sink));
                Collector collector = Collector.start(options)) {
            Logger log = graphema.logger("skerry.booking");
            for (int round = 0; round < 3; round++) {
                emit(log);
                brokers.get(round).kill();
                emit(log);
                assertTrue(graphema.flush(LIMIT));
                brokers.get(round).restart();
            }
            await().atMost(LIMIT).until(() -> count(collector) >= 6_000);
            assertEquals(6_000, count(collector));
        } finally {
            for (Broker each : brokers) {
                each.close();
            }
        }
    }

    private static void emit(Logger log) {
        for (int i = 0; i < 1_000; i++) {
            log.info("seat held", f -> f.put("lane", "A3"));
        }
    }

    private static long count(Collector collector) throws IOException {
        return QueryExecutor.answer(Question.all().newest(0), RemoteSource.at(collector.address(), null))
                .matching();
    }
}
