package dev.graphema.web;

import dev.graphema.Logger;
import dev.graphema.Operation;
import java.io.IOException;
import java.net.Authenticator;
import java.net.CookieHandler;
import java.net.ProxySelector;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.net.http.WebSocket;
import java.time.Duration;
import java.util.Objects;
import java.util.Optional;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.CompletionException;
import java.util.concurrent.Executor;
import javax.net.ssl.SSLContext;
import javax.net.ssl.SSLParameters;

/**
 * An {@link HttpClient} that emits an event for each call of another one, and sends the correlation with it, so that the
 * events of the other service belong to the same trace. Libraries that take a client take this one. Thread-safe.
 *
 * <p>The event is that of an operation {@value #NAME}, with the fields {@code method}, {@code host}, {@code path},
 * {@code status}, {@code elapsed} and {@code outcome}. A status of 500 or above, or an exception, is a failure. Calls
 * are not repeated. Of a web socket, no event is emitted.
 */
public final class CallEvents extends HttpClient {
    /** The message of the event of a call. */
    public static final String NAME = "call";

    private final HttpClient client;
    private final Logger log;

    public CallEvents(HttpClient client, Logger log) {
        this.client = Objects.requireNonNull(client, "client");
        this.log = Objects.requireNonNull(log, "log");
    }

    @Override
    public <T> HttpResponse<T> send(HttpRequest request, HttpResponse.BodyHandler<T> body)
            throws IOException, InterruptedException {
        try (Operation operation = begin(request)) {
            try {
                HttpResponse<T> response = client.send(correlated(request, operation), body);
                answered(operation, response);
                return response;
            } catch (Throwable e) {
                operation.fail(e);
                throw e;
            }
        }
    }

    /** The event is emitted when the answer has arrived, before dependent stages of the future. */
    @Override
    public <T> CompletableFuture<HttpResponse<T>> sendAsync(HttpRequest request, HttpResponse.BodyHandler<T> body) {
        return sendAsync(request, body, null);
    }

    /** As {@link #sendAsync(HttpRequest, HttpResponse.BodyHandler)}. */
    @Override
    public <T> CompletableFuture<HttpResponse<T>> sendAsync(
            HttpRequest request, HttpResponse.BodyHandler<T> body, HttpResponse.PushPromiseHandler<T> promises) {
        Operation operation = begin(request);
        CompletableFuture<HttpResponse<T>> answer;
        try {
            answer = client.sendAsync(correlated(request, operation), body, promises);
        } catch (Throwable e) {
            operation.fail(e);
            operation.close();
            throw e;
        }
        operation.detach();
        return answer.whenComplete((response, problem) -> {
            if (problem == null) {
                answered(operation, response);
            } else {
                operation.fail(
                        problem instanceof CompletionException && problem.getCause() != null
                                ? problem.getCause()
                                : problem);
            }
            operation.close();
        });
    }

    @Override
    public Optional<CookieHandler> cookieHandler() {
        return client.cookieHandler();
    }

    @Override
    public Optional<Duration> connectTimeout() {
        return client.connectTimeout();
    }

    @Override
    public Redirect followRedirects() {
        return client.followRedirects();
    }

    @Override
    public Optional<ProxySelector> proxy() {
        return client.proxy();
    }

    @Override
    public SSLContext sslContext() {
        return client.sslContext();
    }

    @Override
    public SSLParameters sslParameters() {
        return client.sslParameters();
    }

    @Override
    public Optional<Authenticator> authenticator() {
        return client.authenticator();
    }

    @Override
    public Version version() {
        return client.version();
    }

    @Override
    public Optional<Executor> executor() {
        return client.executor();
    }

    @Override
    public WebSocket.Builder newWebSocketBuilder() {
        return client.newWebSocketBuilder();
    }

    private Operation begin(HttpRequest request) {
        Operation operation = log.operation(NAME);
        operation
                .put("method", request.method())
                .put("host", host(request.uri()))
                .put("path", request.uri().getPath());
        return operation;
    }

    private static void answered(Operation operation, HttpResponse<?> response) {
        operation.put("status", response.statusCode());
        if (response.statusCode() < 500) {
            operation.succeed();
        }
    }

    private static HttpRequest correlated(HttpRequest request, Operation operation) {
        HttpRequest.Builder correlated = HttpRequest.newBuilder(request, (name, value) -> true);
        operation.correlation().headers(request.uri().getHost(), correlated::setHeader);
        return correlated.build();
    }

    /** Returns host and port, without the user and password of the address. */
    private static String host(URI uri) {
        return uri.getPort() < 0 ? uri.getHost() : uri.getHost() + ":" + uri.getPort();
    }
}
