package dev.graphema.kafka;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.engines.Broker;
import dev.graphema.query.Question;
import dev.graphema.query.answer.Coverage;
import dev.graphema.query.source.Control;
import dev.graphema.query.source.QueryExecutor;
import dev.graphema.remote.RemoteSource;
import java.io.BufferedReader;
import java.io.IOException;
import java.net.ServerSocket;
import java.net.URI;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.TimeUnit;
import org.apache.kafka.clients.admin.Admin;
import org.apache.kafka.clients.admin.NewTopic;
import org.apache.kafka.clients.admin.OffsetSpec;
import org.apache.kafka.common.TopicPartition;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.io.TempDir;

/** A program, a broker and two collectors, one of which is killed again and again: what was sent is stored once. */
class KafkaKillTest {
    /** {@code -Dkills=200} runs more of them. */
    private static final int KILLS = Integer.getInteger("kills", 6);

    private static final String TOPIC = "killed";
    private static final int PARTITIONS = 4;
    private static final int COLLECTORS = 2;

    @TempDir
    private Path folder;

    private final Map<Integer, Integer> acknowledged = new ConcurrentHashMap<>();
    private final List<URI> addresses = new ArrayList<>();
    private final List<Process> collectors = new ArrayList<>();
    private Broker broker;
    private Process service;
    private int run;

    @Test
    @Timeout(7200)
    void whatIsSentIsStoredOnce() throws Exception {
        long seed = Long.getLong("seed", System.nanoTime());
        Random random = new Random(seed);
        broker = Broker.start(BrokerLibraries.required(), folder);
        try (Admin admin = Admin.create(Map.of("bootstrap.servers", broker.address()))) {
            admin.createTopics(List.of(new NewTopic(TOPIC, PARTITIONS, (short) 1)))
                    .all()
                    .get();
        }
        for (int i = 0; i < COLLECTORS; i++) {
            addresses.add(URI.create("http://127.0.0.1:" + freePort()));
            collectors.add(startCollector(i));
        }
        startService();
        Map<String, Integer> victims = new TreeMap<>();
        for (int kill = 0; kill < KILLS; kill++) {
            TimeUnit.MILLISECONDS.sleep(random.nextInt(1_500));
            victims.merge(killed(kill < 4 ? kill : random.nextInt(4)), 1, Integer::sum);
        }
        service.destroyForcibly().waitFor();
        Set<String> sent = sent();
        service = Programs.start(
                Programs.Service.class,
                folder.resolve("problems-of-service"),
                broker.address(),
                TOPIC,
                folder.resolve("spool").toString());
        List<String> stored = stored(sent.size());
        Set<String> different = new TreeSet<>(stored);
        Set<String> missing = new TreeSet<>(sent);
        missing.removeAll(different);
        assertEquals(
                0,
                missing.size(),
                () -> "seed " + seed + ": lost, such as " + missing.iterator().next() + situation());
        assertEquals(different.size(), stored.size(), "seed " + seed + ": doubled");
        assertTrue(sent.size() > KILLS);
        System.out.println(KILLS + " kills " + victims + ", seed " + seed + ": " + sent.size()
                + " events sent through a topic to " + COLLECTORS + " collectors, none lost or doubled");
        service.destroyForcibly();
        collectors.forEach(Process::destroyForcibly);
        broker.close();
    }

    /** Kills one of the processes and starts it again; returns its name. */
    private String killed(int victim) throws Exception {
        switch (victim) {
            case 0:
                service.destroyForcibly().waitFor();
                startService();
                return "program";
            case 1:
                broker.kill();
                broker.restart();
                return "broker";
            default:
                int index = victim - 2;
                collectors.get(index).destroyForcibly().waitFor();
                collectors.set(index, startCollector(index));
                return "collector " + (index + 1);
        }
    }

    private Process startCollector(int index) throws IOException {
        Process collector = Programs.start(
                Programs.ReadingCollector.class,
                folder.resolve("problems-" + index),
                broker.address(),
                TOPIC,
                folder.resolve("store-" + index).toString(),
                Integer.toString(addresses.get(index).getPort()));
        Programs.output(collector).readLine();
        return collector;
    }

    private void startService() throws IOException {
        int own = run++;
        service = Programs.start(
                Programs.Service.class,
                folder.resolve("problems-of-service"),
                broker.address(),
                TOPIC,
                folder.resolve("spool").toString(),
                Integer.toString(own));
        BufferedReader output = Programs.output(service);
        Thread reader = new Thread(() -> {
            try {
                for (String line = output.readLine(); line != null; line = output.readLine()) {
                    acknowledged.put(own, Integer.parseInt(line));
                }
            } catch (IOException e) {
                // it was killed, and its output is closed
            }
        });
        reader.setDaemon(true);
        reader.start();
    }

    private Set<String> sent() {
        Set<String> sent = new TreeSet<>();
        acknowledged.forEach((of, count) -> {
            for (int i = 0; i < count; i++) {
                sent.add(of + "/" + i);
            }
        });
        return sent;
    }

    /** Returns what both collectors have, when nothing more arrives. */
    private List<String> stored(int sent) throws Exception {
        long by = System.nanoTime() + TimeUnit.MINUTES.toNanos(5);
        long before = -1;
        long now = count();
        while ((now < sent || now > before) && System.nanoTime() < by) {
            TimeUnit.SECONDS.sleep(10);
            before = now;
            now = count();
        }
        List<String> stored = new ArrayList<>();
        for (URI each : addresses) {
            Coverage coverage = QueryExecutor.read(
                    Question.all(), RemoteSource.at(each, null), Control.NONE, event -> stored.add(event.message()));
            assertEquals(List.of(), coverage.failures());
        }
        return stored;
    }

    private long count() throws IOException {
        long count = 0;
        for (URI each : addresses) {
            count += QueryExecutor.answer(Question.all().newest(0), RemoteSource.at(each, null))
                    .matching();
        }
        return count;
    }

    /** Returns what the collectors have reported, and up to where the group has read. */
    private String situation() {
        StringBuilder situation = new StringBuilder();
        try (Admin admin = Admin.create(Map.of("bootstrap.servers", broker.address()))) {
            for (int i = 0; i < COLLECTORS; i++) {
                List<String> problems = Files.readAllLines(folder.resolve("problems-" + i));
                situation.append("\ncollector " + (i + 1) + ": "
                        + problems.subList(Math.max(0, problems.size() - 20), problems.size()));
            }
            situation.append("\n"
                    + admin.describeConsumerGroups(List.of("graphema")).all().get());
            situation.append("\n"
                    + admin.listConsumerGroupOffsets("graphema")
                            .partitionsToOffsetAndMetadata()
                            .get());
            Map<TopicPartition, OffsetSpec> ends = new HashMap<>();
            for (int i = 0; i < PARTITIONS; i++) {
                ends.put(new TopicPartition(TOPIC, i), OffsetSpec.latest());
            }
            situation.append("\n" + admin.listOffsets(ends).all().get());
        } catch (IOException | ExecutionException | InterruptedException e) {
            situation.append("\n" + e);
        }
        return situation.toString();
    }

    private static int freePort() throws IOException {
        try (ServerSocket free = new ServerSocket(0)) {
            return free.getLocalPort();
        }
    }
}
