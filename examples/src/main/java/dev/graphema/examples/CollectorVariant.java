package dev.graphema.examples;

import dev.graphema.cli.output.Console;
import dev.graphema.collector.Collector;
import dev.graphema.collector.CollectorOptions;
import dev.graphema.lines.LineFiles;
import dev.graphema.query.Question;
import dev.graphema.query.source.EventSource;
import dev.graphema.query.source.QueryExecutor;
import dev.graphema.remote.RemoteSource;
import java.io.IOException;
import java.net.URI;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.concurrent.CopyOnWriteArrayList;

/** A collector to which all services send. */
final class CollectorVariant implements Variant {
    private final Path store;
    private final Collector collector;
    private final List<String> problems;

    private CollectorVariant(Path store, Collector collector, List<String> problems) {
        this.store = store;
        this.collector = collector;
        this.problems = problems;
    }

    static CollectorVariant start(Path folder) throws IOException {
        Path store = folder.resolve("collected");
        List<String> problems = new CopyOnWriteArrayList<>();
        CollectorOptions options = CollectorOptions.usual(store, problems::add).port(0);
        return new CollectorVariant(store, Collector.start(options), problems);
    }

    private String address() {
        return "http://127.0.0.1:" + collector.port();
    }

    @Override
    public String settings(String settings) {
        return Variant.withSink(
                settings,
                "collector",
                "{type: http, url: \"" + address() + "/lines\", batch: {wait: 200ms}, retry: {first: 50ms}}");
    }

    @Override
    public boolean report(Console console, Path logs) throws IOException {
        Map<String, Long> written = byInstance(LineFiles.at(List.of(logs)));
        Map<String, Long> stored = byInstance(RemoteSource.at(URI.create(address()), null));
        console.print("");
        console.print("The collector, asked over HTTP, has stored:");
        written.forEach((instance, count) -> console.print(
                "  " + instance + ": " + stored.getOrDefault(instance, 0L) + " events; its file has " + count));
        problems.forEach(console::print);
        console.print("To search its store: " + console.command() + " find 'level >= error' --in " + store);
        return written.equals(stored) && problems.isEmpty();
    }

    private static Map<String, Long> byInstance(EventSource source) throws IOException {
        Map<String, Long> counts = new TreeMap<>();
        QueryExecutor.answer(Question.all().counts("instance"), source)
                .rows()
                .forEach(row -> counts.put(
                        String.valueOf(row.values().get(0)), row.events().kept()));
        return counts;
    }

    @Override
    public void close() throws IOException {
        collector.close();
    }
}
