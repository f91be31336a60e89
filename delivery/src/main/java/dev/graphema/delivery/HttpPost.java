package dev.graphema.delivery;

import dev.graphema.background.BackgroundThreads;
import dev.graphema.batch.RetryLaterException;
import dev.graphema.option.Option;
import dev.graphema.option.Options;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.net.ConnectException;
import java.net.URI;
import java.net.URISyntaxException;
import java.net.http.HttpClient;
import java.net.http.HttpConnectTimeoutException;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.ByteBuffer;
import java.time.DateTimeException;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.time.ZonedDateTime;
import java.time.format.DateTimeFormatter;
import java.util.List;
import java.util.Map;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.CompletionStage;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Flow;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import java.util.zip.GZIPOutputStream;

/**
 * Posts bodies to one address and waits for the answer, at most for the timeout. Redirects are not followed: they
 * indicate a wrong setting. For one thread at a time.
 */
final class HttpPost {
    static final Option<String> TOKEN = Option.of(
                    "token", "a bearer token in one line", HttpPost::headerValue, text -> text)
            .standard(null)
            .secret()
            .meaning("sent as `Authorization: Bearer …`; write it as `${NAME}`, not into the file");
    static final Option<Map<String, String>> HEADERS = Option.names(
                    Option.of("headers", "a header's value in one line", HttpPost::headerValue, text -> text)
                            .secret())
            .standard(Map.of(), "none")
            .secret()
            .meaning("further headers");
    static final Option<Boolean> GZIP = Option.bool("gzip").standard(true).meaning("whether bodies are compressed");
    static final Option<Duration> TIMEOUT = Option.duration("timeout")
            .standard(Duration.ofSeconds(5), "5s")
            .meaning("the longest duration of an attempt");

    static final List<Option<?>> OPTIONS = List.of(TOKEN, HEADERS, GZIP, TIMEOUT, Tls.TRUST);

    private static final int MOST_OF_AN_ANSWER = 64 * 1024;
    private static final Duration LONGEST_PAUSE = Duration.ofHours(1);

    private final ExecutorService executor =
            Executors.newCachedThreadPool(task -> BackgroundThreads.daemon("graphema-http", task));
    private final HttpRequest request;
    private final boolean gzip;
    private final Duration timeout;
    private final InstantSource clock;

    /** Null if it is closed. */
    private HttpClient client;

    HttpPost(URI address, String contentType, Options options, InstantSource clock) throws IOException {
        this.timeout = options.get(TIMEOUT);
        this.gzip = options.get(GZIP);
        this.clock = clock;
        HttpClient.Builder builder = HttpClient.newBuilder()
                .executor(executor)
                .connectTimeout(timeout)
                .version(HttpClient.Version.HTTP_1_1)
                .followRedirects(HttpClient.Redirect.NEVER);
        if (address.getScheme().equals("https")) {
            builder.sslContext(Tls.context(options.get(Tls.TRUST)));
        }
        this.client = builder.build();
        HttpRequest.Builder common = HttpRequest.newBuilder(address)
                .timeout(timeout)
                .header("Content-Type", contentType)
                .header("User-Agent", "graphema");
        if (gzip) {
            common.header("Content-Encoding", "gzip");
        }
        if (options.get(TOKEN) != null) {
            common.header("Authorization", "Bearer " + options.get(TOKEN));
        }
        options.get(HEADERS).forEach(common::header);
        this.request = common.GET().build();
    }

    /** An option for the address. */
    static Option<URI> address(String name, String example) {
        return Option.of(name, "an address such as " + example, HttpPost::parsed, URI::toString);
    }

    /**
     * Returns the text without surrounding white space, which a file or variable may contain; null if it is not a valid
     * header value.
     */
    private static String headerValue(String text) {
        String value = text.strip();
        boolean isOneLine = value.chars().allMatch(c -> c >= 0x20 && c != 0x7F || c == '\t');
        return value.isEmpty() || !isOneLine ? null : value;
    }

    /** Messages about an address must not contain its password. */
    private static URI parsed(String text) {
        if (text.indexOf('@') >= 0) {
            throw new IllegalArgumentException(
                    "the url has an @, as before a host with a name and password (expected: an address without; set"
                            + " token or headers)");
        }
        try {
            URI uri = new URI(text);
            boolean isHttp = "http".equals(uri.getScheme()) || "https".equals(uri.getScheme());
            return isHttp && uri.getHost() != null ? uri : null;
        } catch (URISyntaxException e) {
            return null;
        }
    }

    /** An answer: its status and the beginning of its body. */
    record Answer(int status, byte[] body, HttpResponse<byte[]> response) {
        boolean isSuccess() {
            return status >= 200 && status < 300;
        }
    }

    /**
     * Posts a body.
     *
     * @throws IOException if the receiver cannot be reached or does not answer in time
     */
    Answer post(ByteBuffer body) throws IOException {
        if (client == null) {
            throw new IOException("the connection to " + this + " is closed");
        }
        byte[] sent = gzip ? compressed(body) : copied(body);
        HttpRequest post = HttpRequest.newBuilder(request, (name, value) -> true)
                .POST(HttpRequest.BodyPublishers.ofByteArray(sent))
                .build();
        // The request's own time-out ends with the answer's headers; an answer may also never end.
        CompletableFuture<HttpResponse<byte[]>> answer = client.sendAsync(post, info -> new BoundedBody());
        try {
            HttpResponse<byte[]> response = answer.get(timeout.toMillis() + 100, TimeUnit.MILLISECONDS);
            return new Answer(response.statusCode(), response.body(), response);
        } catch (TimeoutException e) {
            answer.cancel(true);
            throw new IOException("no whole answer within " + timeout.toMillis() + " ms");
        } catch (ExecutionException e) {
            throw new IOException(described(e.getCause()));
        } catch (InterruptedException e) {
            answer.cancel(true);
            Thread.currentThread().interrupt();
            throw new IOException("interrupted while waiting for an answer");
        }
    }

    private String described(Throwable problem) {
        if (problem instanceof ConnectException || problem instanceof HttpConnectTimeoutException) {
            return "no connection to " + this; // the JDK's own words for it are none
        }
        return problem.getMessage() == null ? problem.toString() : problem.getMessage();
    }

    /** Returns the exception for an answer that requests a later retry. */
    IOException later(Answer answer) {
        String message = "status " + answer.status();
        Duration pause = answer.response()
                .headers()
                .firstValue("Retry-After")
                .map(this::pause)
                .orElse(null);
        return pause == null ? new IOException(message) : new RetryLaterException(message, pause);
    }

    /** Parses seconds or a date (RFC 9110); null if it is neither; an hour at most. */
    private Duration pause(String retryAfter) {
        Duration pause;
        if (retryAfter.matches("[0-9]{1,9}")) {
            pause = Duration.ofSeconds(Long.parseLong(retryAfter));
        } else {
            try {
                Instant until = ZonedDateTime.parse(retryAfter, DateTimeFormatter.RFC_1123_DATE_TIME)
                        .toInstant();
                pause = Duration.between(clock.instant(), until);
            } catch (DateTimeException e) {
                return null;
            }
        }
        return pause.compareTo(LONGEST_PAUSE) > 0 ? LONGEST_PAUSE : pause;
    }

    private static byte[] compressed(ByteBuffer body) throws IOException {
        ByteArrayOutputStream bytes = new ByteArrayOutputStream(body.remaining() / 4 + 64);
        try (GZIPOutputStream gzip = new GZIPOutputStream(bytes)) {
            gzip.write(body.array(), body.arrayOffset() + body.position(), body.remaining());
        }
        return bytes.toByteArray();
    }

    private static byte[] copied(ByteBuffer body) {
        byte[] bytes = new byte[body.remaining()];
        body.duplicate().get(bytes);
        return bytes;
    }

    /**
     * Releases connections and threads. Before Java 21, a client cannot be closed: its thread ends after garbage
     * collection.
     */
    void close() {
        HttpClient closing = client;
        client = null;
        executor.shutdownNow();
        if ((Object) closing instanceof AutoCloseable) {
            try {
                HttpClient.class.getMethod("shutdownNow").invoke(closing);
            } catch (ReflectiveOperationException e) {
                return; // a Java whose client is closed in yet another way; its threads are daemons
            }
        }
    }

    @Override
    public String toString() {
        return request.uri().getScheme() + "://" + request.uri().getHost() + ":"
                + request.uri().getPort() + request.uri().getPath();
    }

    /** Reads the beginning of a body and discards the rest. */
    private static final class BoundedBody implements HttpResponse.BodySubscriber<byte[]> {
        private final CompletableFuture<byte[]> result = new CompletableFuture<>();
        private final ByteArrayOutputStream taken = new ByteArrayOutputStream();
        private Flow.Subscription subscription;

        @Override
        public CompletionStage<byte[]> getBody() {
            return result;
        }

        @Override
        public void onSubscribe(Flow.Subscription subscription) {
            this.subscription = subscription;
            subscription.request(Long.MAX_VALUE);
        }

        @Override
        public void onNext(List<ByteBuffer> buffers) {
            for (ByteBuffer buffer : buffers) {
                byte[] bytes = new byte[Math.min(buffer.remaining(), MOST_OF_AN_ANSWER - taken.size())];
                buffer.get(bytes);
                taken.writeBytes(bytes);
            }
            if (taken.size() >= MOST_OF_AN_ANSWER) {
                subscription.cancel();
                result.complete(taken.toByteArray());
            }
        }

        @Override
        public void onError(Throwable problem) {
            result.completeExceptionally(problem);
        }

        @Override
        public void onComplete() {
            result.complete(taken.toByteArray());
        }
    }
}
