package dev.graphema.examples;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.sun.net.httpserver.HttpExchange;
import com.sun.net.httpserver.HttpServer;
import dev.graphema.cli.output.Console;
import dev.graphema.lines.LineFiles;
import dev.graphema.query.Question;
import dev.graphema.query.source.QueryExecutor;
import java.io.IOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.zip.GZIPInputStream;

/**
 * A simulated collector for the OpenTelemetry protocol. It answers the first request of each service with 503, as a
 * collector does that has just been started.
 */
final class OtlpVariant implements Variant {
    private static final ObjectMapper JSON = new ObjectMapper();

    private final HttpServer server;
    private final ExecutorService threads = Executors.newFixedThreadPool(4);
    private final Set<String> greeted = new HashSet<>();
    private final Set<String> ids = new HashSet<>();
    private final Map<String, Integer> records = new TreeMap<>();
    private int requests;
    private int refused;
    private int repeated;

    private OtlpVariant(HttpServer server) {
        this.server = server;
    }

    static OtlpVariant start() throws IOException {
        OtlpVariant collector =
                new OtlpVariant(HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), 0), 0));
        collector.server.createContext("/v1/logs", collector::take);
        collector.server.setExecutor(collector.threads);
        collector.server.start();
        return collector;
    }

    @Override
    public String settings(String settings) {
        String url = "http://127.0.0.1:" + server.getAddress().getPort() + "/v1/logs";
        return Variant.withSink(
                settings,
                "collector",
                "{type: otlp, url: \"" + url + "\", batch: {wait: 200ms}, retry: {first: 50ms}}");
    }

    private void take(HttpExchange exchange) throws IOException {
        try (exchange) {
            JsonNode request = JSON.readTree(new GZIPInputStream(exchange.getRequestBody()));
            int status = status(request);
            byte[] body = (status == 200 ? "{}" : "busy").getBytes(StandardCharsets.US_ASCII);
            exchange.getResponseHeaders().set("Content-Type", "application/json");
            exchange.sendResponseHeaders(status, body.length);
            exchange.getResponseBody().write(body);
        }
    }

    private synchronized int status(JsonNode request) {
        boolean isBusy = false;
        for (JsonNode resource : request.get("resourceLogs")) {
            isBusy |= greeted.add(attribute(resource.at("/resource/attributes"), "service.instance.id"));
        }
        if (isBusy) {
            refused++;
            return 503;
        }
        requests++;
        for (JsonNode resource : request.get("resourceLogs")) {
            String instance = attribute(resource.at("/resource/attributes"), "service.instance.id");
            for (JsonNode scope : resource.get("scopeLogs")) {
                for (JsonNode record : scope.get("logRecords")) {
                    if (ids.add(attribute(record.get("attributes"), "log.record.uid"))) {
                        records.merge(instance, 1, Integer::sum);
                    } else {
                        repeated++;
                    }
                }
            }
        }
        return 200;
    }

    private static String attribute(JsonNode attributes, String key) {
        for (JsonNode attribute : attributes) {
            if (attribute.get("key").textValue().equals(key)) {
                return attribute.at("/value/stringValue").textValue();
            }
        }
        return "";
    }

    @Override
    public synchronized boolean report(Console console, Path logs) throws IOException {
        Map<String, Integer> written = new TreeMap<>();
        QueryExecutor.answer(Question.all().counts("instance"), LineFiles.at(List.of(logs)))
                .rows()
                .forEach(row ->
                        written.put(row.values().get(0), (int) row.events().kept()));
        console.print("");
        console.print("The collector, a stand-in that speaks OTLP over HTTP, answered " + refused
                + " requests by 503 at first, took " + requests + ", and got " + repeated + " records twice.");
        written.forEach((instance, count) -> console.print("  " + instance + ": " + records.getOrDefault(instance, 0)
                + " log records; its file has " + count + " events"));
        return written.equals(records);
    }

    @Override
    public void close() {
        server.stop(0);
        threads.shutdownNow();
    }
}
