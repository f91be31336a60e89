package dev.graphema.web;

import com.sun.net.httpserver.Filter;
import com.sun.net.httpserver.HttpExchange;
import dev.graphema.Logger;
import dev.graphema.Operation;
import java.io.FilterInputStream;
import java.io.FilterOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.util.List;
import java.util.Objects;

/**
 * Says an event for each request that a {@link com.sun.net.httpserver.HttpServer} serves. It is to stand first in the
 * context's list of filters, so that requests are told which a later filter refuses, or whose handling throws.
 *
 * <pre>{@code
 * server.createContext("/", handler).getFilters().add(0, RequestFilter.of(log));
 * }</pre>
 *
 * <p>The event is that of an operation called {@value #NAME}, with the fields {@code method}, {@code route} (the context's
 * path), {@code path}, {@code query}, {@code status}, {@code request_bytes} (as far as they were read), {@code
 * response_bytes}, {@code elapsed} and {@code outcome}, and what {@link RequestOptions} ask for; a status from 500 on, a
 * missing one, or an exception is a failure. The trace is the caller's when the request has a valid {@code traceparent};
 * the response carries the ids in {@code traceresponse}. Exceptions go on to the server as before.
 */
public final class RequestFilter extends Filter {
    /** The message of a request's event. */
    public static final String NAME = "request";

    /** The response header with the trace id, in the form of {@code traceparent}. */
    public static final String TRACERESPONSE = "traceresponse";

    private final Logger log;
    private final RequestOptions options;

    private RequestFilter(Logger log, RequestOptions options) {
        this.log = Objects.requireNonNull(log, "log");
        this.options = Objects.requireNonNull(options, "options");
    }

    /** A filter that tells of all requests. */
    public static RequestFilter of(Logger log) {
        return of(log, RequestOptions.USUAL);
    }

    public static RequestFilter of(Logger log, RequestOptions options) {
        return new RequestFilter(log, options);
    }

    @Override
    public String description() {
        return "tells of each request as an event";
    }

    @Override
    public void doFilter(HttpExchange exchange, Chain chain) throws IOException {
        String path = exchange.getRequestURI().getPath();
        if (options.excludes(path)) {
            chain.doFilter(exchange);
            return;
        }
        RequestEvent event = RequestEvent.begin(log, options, name -> header(exchange, name));
        try (Operation operation = event.operation()) {
            event.asked(
                    exchange.getRequestMethod(),
                    exchange.getHttpContext().getPath(),
                    path,
                    exchange.getRequestURI().getRawQuery(),
                    exchange.getRemoteAddress().getAddress().getHostAddress(),
                    name -> header(exchange, name));
            exchange.getResponseHeaders()
                    .set(TRACERESPONSE, operation.correlation().header());
            BodyHead request =
                    new BodyHead(options.bodyBytes(exchange.getRequestMethod(), header(exchange, "content-type")));
            BodyHead response = new BodyHead(0);
            exchange.setStreams(
                    new Counted(exchange.getRequestBody(), request),
                    new Counting(exchange.getResponseBody(), response));
            Throwable thrown = null;
            try {
                chain.doFilter(exchange);
            } catch (Throwable e) {
                thrown = e;
                throw e;
            } finally {
                event.answered(exchange.getResponseCode(), request, response);
                if (thrown != null) {
                    event.failed(thrown);
                }
            }
        }
    }

    private static String header(HttpExchange exchange, String name) {
        List<String> values = exchange.getRequestHeaders().get(name);
        return values == null ? null : String.join(",", values);
    }

    private static final class Counted extends FilterInputStream {
        private final BodyHead head;

        Counted(InputStream stream, BodyHead head) {
            super(stream);
            this.head = head;
        }

        @Override
        public int read() throws IOException {
            int octet = super.read();
            if (octet >= 0) {
                head.add(octet);
            }
            return octet;
        }

        @Override
        public int read(byte[] bytes, int from, int length) throws IOException {
            int count = super.read(bytes, from, length);
            if (count > 0) {
                head.add(bytes, from, count);
            }
            return count;
        }
    }

    private static final class Counting extends FilterOutputStream {
        private final BodyHead head;

        Counting(OutputStream stream, BodyHead head) {
            super(stream);
            this.head = head;
        }

        @Override
        public void write(int octet) throws IOException {
            out.write(octet);
            head.add(octet);
        }

        @Override
        public void write(byte[] bytes, int from, int length) throws IOException {
            out.write(bytes, from, length);
            head.add(bytes, from, length);
        }
    }
}
