package dev.graphema.benchmarks;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.zip.GZIPOutputStream;

/** What needs much memory of a collector: events of 10 KB in requests of 10 MB, and eight questions at once about all of them. */
final class LargeRequests {
    private static final int AT_ONCE = 8;
    private static final int BODIES = 60;
    private static final int LINES = 1_000;
    private static final int TEXT = 10_000;
    private static final int TRIES = 50;
    private static final String SEVERAL = "{\"ask\":{\"kind\":\"%s}}";
    private static final List<String> ASKED = List.of(
            "events\",\"order\":\"newest\",\"limit\":100000",
            "counts\",\"by\":[\"text\",\"number\"]",
            "map\",\"by\":[\"text\"]",
            "contrast\",\"with\":\"number < 500\"",
            "fields\"");

    private final HttpClient client = HttpClient.newHttpClient();
    private final URI collector;

    private LargeRequests(URI collector) {
        this.collector = collector;
    }

    /** Sends and asks, and returns whether the collector still answers. */
    static boolean passes(URI collector) throws Exception {
        LargeRequests requests = new LargeRequests(collector);
        ExecutorService pool = Executors.newFixedThreadPool(AT_ONCE);
        try {
            byte[] body = body();
            List<Callable<Integer>> sent = new ArrayList<>();
            for (int i = 0; i < BODIES; i++) {
                sent.add(() -> requests.send(body));
            }
            report("requests of 10 MB", pool.invokeAll(sent));
            for (String each : ASKED) {
                List<Callable<Integer>> asked = new ArrayList<>();
                for (int i = 0; i < AT_ONCE; i++) {
                    asked.add(() -> requests.ask(SEVERAL.formatted(each)));
                }
                report("{\"kind\":\"" + each + "}", pool.invokeAll(asked));
            }
            return requests.status(HttpRequest.newBuilder(collector.resolve("/health"))) == 200;
        } finally {
            pool.shutdownNow();
        }
    }

    private static void report(String what, List<Future<Integer>> statuses) throws Exception {
        int answered = 0;
        for (Future<Integer> each : statuses) {
            answered += each.get() == 200 ? 1 : 0;
        }
        System.err.println(what + ": " + answered + " of " + statuses.size() + " were answered completely");
    }

    private static byte[] body() throws IOException {
        Random random = new Random(1);
        ByteArrayOutputStream bytes = new ByteArrayOutputStream();
        try (GZIPOutputStream to = new GZIPOutputStream(bytes)) {
            for (int i = 0; i < LINES; i++) {
                String text = Long.toHexString(random.nextLong()).repeat(TEXT / 16);
                to.write(("{\"time\":\"" + Instant.now().plusNanos(i)
                                + "\",\"level\":\"info\",\"service\":\"deck\",\"message\":\"long\",\"fields\":{\"text\":\""
                                + text + "\",\"number\":" + random.nextInt(1000) + "}}\n")
                        .getBytes(StandardCharsets.UTF_8));
            }
        }
        return bytes.toByteArray();
    }

    /** Sends until the request is accepted, as senders do that are asked to try again. */
    private int send(byte[] body) throws IOException, InterruptedException {
        int status = 0;
        for (int i = 0; i < TRIES && status != 200; i++) {
            status = status(HttpRequest.newBuilder(collector.resolve("/lines"))
                    .header("Content-Encoding", "gzip")
                    .POST(HttpRequest.BodyPublishers.ofByteArray(body)));
            Thread.sleep(status == 200 ? 0 : 200);
        }
        return status;
    }

    private int ask(String question) throws InterruptedException {
        try {
            return status(HttpRequest.newBuilder(collector.resolve("/questions"))
                    .header("Content-Type", "application/json")
                    .POST(HttpRequest.BodyPublishers.ofString(question)));
        } catch (IOException e) {
            return 0; // the answer was cut off
        }
    }

    private int status(HttpRequest.Builder request) throws IOException, InterruptedException {
        HttpResponse<InputStream> response = client.send(request.build(), HttpResponse.BodyHandlers.ofInputStream());
        try (InputStream body = response.body()) {
            body.transferTo(OutputStream.nullOutputStream());
        }
        return response.statusCode();
    }
}
