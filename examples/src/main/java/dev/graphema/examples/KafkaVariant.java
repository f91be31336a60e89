package dev.graphema.examples;

import dev.graphema.cli.output.Console;
import dev.graphema.cli.output.Counted;
import dev.graphema.cli.output.Shell;
import dev.graphema.collector.Collector;
import dev.graphema.collector.CollectorOptions;
import dev.graphema.collector.input.Topic;
import dev.graphema.engines.Broker;
import dev.graphema.lines.LineFiles;
import dev.graphema.query.Question;
import dev.graphema.query.source.QueryExecutor;
import dev.graphema.remote.RemoteSource;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.TimeUnit;
import org.apache.kafka.clients.admin.Admin;
import org.apache.kafka.clients.admin.NewTopic;

/** A real broker of Kafka, started for the demo, and two collectors that share its topic. */
final class KafkaVariant implements Variant {
    /** The system property with the folder of the broker's libraries. */
    static final String LIBRARIES = "graphema.broker.libraries";

    private static final String TOPIC = "skerry";
    private static final int COLLECTORS = 2;
    private static final long PATIENCE_SECONDS = 60;

    private final Path folder;
    private final Broker broker;
    private final List<Collector> collectors = new ArrayList<>();
    private final List<String> problems = new CopyOnWriteArrayList<>();

    private KafkaVariant(Path folder, Broker broker) {
        this.folder = folder;
        this.broker = broker;
    }

    static KafkaVariant start(Path folder) throws IOException {
        String libraries = System.getProperty(LIBRARIES);
        if (libraries == null || !Files.isDirectory(Path.of(libraries))) {
            throw new IOException(
                    "the libraries of the broker are missing: run the demo from a checkout, as ./graphema demo --variant kafka");
        }
        KafkaVariant variant = new KafkaVariant(folder, Broker.start(Path.of(libraries), folder.resolve("kafka")));
        try {
            createTopic(variant.broker.address());
            Topic topic = new Topic(variant.broker.address(), TOPIC, Topic.GROUP, null, Topic.TAKEOVER, null, null);
            for (int i = 0; i < COLLECTORS; i++) {
                variant.collectors.add(Collector.start(CollectorOptions.usual(variant.store(i), variant.problems::add)
                        .port(0)
                        .topic(topic)));
            }
            return variant;
        } catch (IOException | RuntimeException e) {
            variant.close();
            throw e;
        }
    }

    private Path store(int index) {
        return folder.resolve("collected-" + (index + 1));
    }

    private static void createTopic(String address) throws IOException {
        try (Admin admin = Admin.create(Map.of("bootstrap.servers", address))) {
            admin.createTopics(List.of(new NewTopic(TOPIC, 2 * COLLECTORS, (short) 1)))
                    .all()
                    .get();
        } catch (InterruptedException | ExecutionException e) {
            throw new IOException("the topic cannot be created", e);
        }
    }

    @Override
    public String settings(String settings) {
        return Variant.withSink(
                settings,
                "topic",
                "{type: kafka, servers: \"" + broker.address() + "\", topic: " + TOPIC
                        + ", batch: {wait: 200ms}, retry: {first: 50ms}}");
    }

    @Override
    public boolean report(Console console, Path logs) throws IOException {
        long written = QueryExecutor.answer(Question.all().newest(0), LineFiles.at(List.of(logs)))
                .matching();
        long by = System.nanoTime() + TimeUnit.SECONDS.toNanos(PATIENCE_SECONDS);
        while (stored() < written && System.nanoTime() < by) {
            try {
                TimeUnit.MILLISECONDS.sleep(100);
            } catch (InterruptedException e) {
                throw new IOException("interrupted while the collectors read the topic", e);
            }
        }
        long stored = stored();
        console.print("");
        console.print("The files have " + Counted.of(written, "event")
                + ". The collectors, which shared the topic, have stored " + Counted.of(stored, "event") + ":");
        StringBuilder stores = new StringBuilder();
        for (int i = 0; i < collectors.size(); i++) {
            console.print("  " + store(i) + ": " + Counted.of(stored(collectors.get(i)), "event"));
            stores.append(" --in ").append(Shell.quoted(store(i).toString()));
        }
        problems.forEach(console::print);
        console.print("To ask both stores as one: " + console.command() + " find 'level >= error'" + stores);
        return stored == written && problems.isEmpty();
    }

    private long stored() throws IOException {
        long stored = 0;
        for (Collector each : collectors) {
            stored += stored(each);
        }
        return stored;
    }

    private static long stored(Collector collector) throws IOException {
        return QueryExecutor.answer(Question.all().newest(0), RemoteSource.at(collector.address(), null))
                .matching();
    }

    @Override
    public void close() throws IOException {
        try (broker) {
            for (Collector each : collectors) {
                each.close();
            }
        }
    }
}
