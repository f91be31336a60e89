package dev.graphema.web;

import com.sun.net.httpserver.Filter;
import com.sun.net.httpserver.HttpExchange;
import dev.graphema.Logger;
import dev.graphema.Operation;
import java.io.IOException;
import java.util.Objects;
import java.util.Set;

/**
 * Says an event for each request that a {@link com.sun.net.httpserver.HttpServer} serves. It is to stand first in the
 * context's list of filters, so that requests are told which a later filter refuses, or whose handling throws.
 *
 * <pre>{@code
 * server.createContext("/", handler).getFilters().add(0, RequestFilter.of(log));
 * }</pre>
 *
 * <p>The event is that of an operation called {@value #NAME}, with the fields {@code method}, {@code path}, {@code status},
 * {@code elapsed} and {@code outcome}; a status from 500 on, a missing one, or an exception is a failure. The trace is the
 * caller's when the request has a valid {@code traceparent}; the response carries the ids in {@code traceresponse}.
 */
public final class RequestFilter extends Filter {
    /** The message of a request's event. */
    public static final String NAME = "request";

    /** The response header with the trace id, in the form of {@code traceparent}. */
    public static final String TRACERESPONSE = "traceresponse";

    private final Logger log;
    private final Set<String> excluded;

    private RequestFilter(Logger log, Set<String> excluded) {
        this.log = log;
        this.excluded = excluded;
    }

    /**
     * A filter that tells of all requests, but those of the given paths.
     *
     * @param excluded whole paths, such as that of a health check
     */
    public static RequestFilter of(Logger log, String... excluded) {
        return new RequestFilter(Objects.requireNonNull(log, "log"), Set.of(excluded));
    }

    @Override
    public String description() {
        return "tells of each request as an event";
    }

    @Override
    public void doFilter(HttpExchange exchange, Chain chain) throws IOException {
        String path = exchange.getRequestURI().getPath();
        if (excluded.contains(path)) {
            chain.doFilter(exchange);
            return;
        }
        try (Operation operation = log.operation(NAME, exchange.getRequestHeaders()::getFirst)) {
            operation.put("method", exchange.getRequestMethod()).put("path", path);
            operation
                    .correlation()
                    .headers((name, value) -> exchange.getResponseHeaders().set(TRACERESPONSE, value));
            try {
                chain.doFilter(exchange);
                if (exchange.getResponseCode() >= 0 && exchange.getResponseCode() < 500) {
                    operation.succeed();
                }
            } catch (Throwable e) {
                operation.fail(e);
                throw e;
            } finally {
                if (exchange.getResponseCode() >= 0) {
                    operation.put("status", exchange.getResponseCode());
                }
            }
        }
    }
}
