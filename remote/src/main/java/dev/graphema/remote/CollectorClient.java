package dev.graphema.remote;

import dev.graphema.condition.Condition;
import dev.graphema.query.Question;
import dev.graphema.query.json.QuestionJson;
import dev.graphema.query.partial.PartialTransfer;
import dev.graphema.query.source.ReadErrors;
import java.io.IOException;
import java.io.InputStream;
import java.net.ConnectException;
import java.net.URI;
import java.net.URLEncoder;
import java.net.http.HttpClient;
import java.net.http.HttpConnectTimeoutException;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import java.util.function.BooleanSupplier;
import javax.net.ssl.SSLContext;
import javax.net.ssl.SSLHandshakeException;

/** Asks a collector over HTTP. Thread-safe. */
final class CollectorClient {
    private static final Duration CONNECT_TIMEOUT = Duration.ofSeconds(10);
    private static final int LONGEST_PROBLEM = 16 << 10;
    private static final int OK = 200;
    private static final long PATIENCE_MILLIS = 100;

    private final URI address;
    private final String token;
    private final HttpClient http;

    /** Whether the collector asks others, too. */
    private final boolean isAskingOthers;

    /** @param trust the certificates to trust; null for those of the JDK */
    CollectorClient(URI address, String token, SSLContext trust) {
        boolean isHttp = "http".equals(address.getScheme()) || "https".equals(address.getScheme());
        if (!isHttp || address.getHost() == null || address.getQuery() != null) {
            throw new IllegalArgumentException(
                    "address: " + address + " (expected: such as https://collector.example:7070)");
        }
        this.address = URI.create(address + (address.getPath().endsWith("/") ? "" : "/"));
        this.token = token;
        HttpClient.Builder client = HttpClient.newBuilder().connectTimeout(CONNECT_TIMEOUT);
        http = (trust == null ? client : client.sslContext(trust)).build();
        isAskingOthers = true;
    }

    private CollectorClient(CollectorClient from, boolean isAskingOthers) {
        address = from.address;
        token = from.token;
        http = from.http;
        this.isAskingOthers = isAskingOthers;
    }

    CollectorClient withoutOthers() {
        return new CollectorClient(this, false);
    }

    /**
     * Returns the state of a partial answer.
     *
     * @param goesOn is asked while the collector has not answered yet
     * @return null if that returned false
     */
    InputStream part(PartialTransfer.Request request, BooleanSupplier goesOn) throws IOException {
        String role = request.role() == null ? "" : "&role=" + encoded(request.role());
        return post("questions/part?own=" + !isAskingOthers + role, request.question(), goesOn);
    }

    /** Returns the events that a question selects, oldest first. */
    InputStream events(Question<?> question) throws IOException {
        return post("questions/events?own=" + !isAskingOthers, question, () -> true);
    }

    /**
     * Returns events as they arrive, as server-sent events.
     *
     * @param since the time from which on past events come first; null for none
     */
    InputStream live(Condition where, Instant since) throws IOException {
        String past = since == null ? "" : "&since=" + encoded(since.toString());
        return send(
                request("live?where=" + encoded(where.toString()) + past)
                        .header("Accept", "text/event-stream")
                        .GET(),
                () -> true);
    }

    private static String encoded(String text) {
        return URLEncoder.encode(text, StandardCharsets.UTF_8);
    }

    private InputStream post(String path, Question<?> question, BooleanSupplier goesOn) throws IOException {
        return send(
                request(path)
                        .header("Content-Type", "application/json")
                        .POST(HttpRequest.BodyPublishers.ofString(QuestionJson.of(question))),
                goesOn);
    }

    private HttpRequest.Builder request(String path) {
        HttpRequest.Builder request = HttpRequest.newBuilder(address.resolve(path));
        return token == null ? request : request.header("Authorization", "Bearer " + token);
    }

    private InputStream send(HttpRequest.Builder request, BooleanSupplier goesOn) throws IOException {
        if (!goesOn.getAsBoolean()) {
            return null;
        }
        CompletableFuture<HttpResponse<InputStream>> sent =
                http.sendAsync(request.build(), BodyHandlers.ofInputStream());
        try {
            while (true) {
                try {
                    return body(sent.get(PATIENCE_MILLIS, TimeUnit.MILLISECONDS));
                } catch (TimeoutException e) {
                    if (!goesOn.getAsBoolean()) {
                        sent.cancel(true);
                        return null;
                    }
                }
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            sent.cancel(true);
            throw new IOException("interrupted while waiting for " + this, e);
        } catch (ExecutionException e) {
            throw new IOException(unreachable(e.getCause()), e.getCause());
        }
    }

    private static InputStream body(HttpResponse<InputStream> response) throws IOException {
        if (response.statusCode() == OK) {
            return response.body();
        }
        try (InputStream body = response.body()) {
            throw new IOException("status " + response.statusCode() + ": "
                    + ProblemText.of(body.readNBytes(LONGEST_PROBLEM), response.statusCode()));
        }
    }

    private static String unreachable(Throwable cause) {
        if (cause instanceof SSLHandshakeException) {
            return "its certificate is not trusted: name a file with that of its issuer; " + cause.getMessage();
        }
        return cause instanceof ConnectException || cause instanceof HttpConnectTimeoutException
                ? "nobody answers there: check the address, and whether the collector runs"
                : ReadErrors.of(cause instanceof IOException io ? io : new IOException(cause));
    }

    @Override
    public String toString() {
        return address.toString();
    }
}
