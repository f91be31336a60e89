package dev.graphema.collector;

import java.io.IOException;
import java.io.InputStream;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.file.Path;

/** Collectors of tests, and requests to them. */
final class Collectors {
    private static final HttpClient HTTP = HttpClient.newHttpClient();

    private Collectors() {}

    static Collector start(Path store) throws IOException {
        return Collector.start(CollectorOptions.usual(store, problem -> {
                    throw new AssertionError(problem);
                })
                .port(0)
                .stamping(false));
    }

    static URI address(Collector collector) {
        return URI.create("http://127.0.0.1:" + collector.port());
    }

    static HttpResponse<String> post(Collector collector, String path, String body) throws IOException {
        return send(HttpRequest.newBuilder(address(collector).resolve(path))
                .POST(HttpRequest.BodyPublishers.ofString(body)));
    }

    static HttpResponse<String> send(HttpRequest.Builder request) throws IOException {
        return sent(request, HttpResponse.BodyHandlers.ofString());
    }

    static HttpResponse<InputStream> open(HttpRequest.Builder request) throws IOException {
        return sent(request, HttpResponse.BodyHandlers.ofInputStream());
    }

    private static <T> HttpResponse<T> sent(HttpRequest.Builder request, HttpResponse.BodyHandler<T> handler)
            throws IOException {
        try {
            return HTTP.send(request.build(), handler);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new IOException(e);
        }
    }
}
