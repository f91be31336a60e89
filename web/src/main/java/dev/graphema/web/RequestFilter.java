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
 * Emits an event for each request to a {@link com.sun.net.httpserver.HttpServer}. Add it as the first filter of the context, so
 * that it also records requests that a later filter rejects or that fail.
 *
 * <pre>{@code
 * server.createContext("/", handler).getFilters().add(0, RequestFilter.of(log));
 * }</pre>
 *
 * <p>The event is that of an operation {@value #NAME}, with the fields {@code method}, {@code route} (the path of the context),
 * {@code path}, {@code query}, {@code status}, {@code request_bytes} (as far as they were read), {@code response_bytes}, {@code
 * elapsed} and {@code outcome}, and the values that {@link RequestOptions} select. A status of 500 or above, a missing one, or an
 * exception is a failure. The trace is that of the caller if the request has a valid {@code traceparent}; the response contains the
 * ids in {@code traceresponse}. Exceptions are passed on to the server.
 */
public final class RequestFilter extends Filter {
    /** The message of the event of a request. */
    public static final String NAME = "request";

    /** The response header with the trace id, in the form of {@code traceparent}. */
    public static final String TRACERESPONSE = "traceresponse";

    private final Logger log;
    private final RequestOptions options;

    private RequestFilter(Logger log, RequestOptions options) {
        this.log = Objects.requireNonNull(log, "log");
        this.options = Objects.requireNonNull(options, "options");
    }

    /** Returns a filter that records all requests. */
    public static RequestFilter of(Logger log) {
        return of(log, RequestOptions.USUAL);
    }

    public static RequestFilter of(Logger log, RequestOptions options) {
        return new RequestFilter(log, options);
    }

    @Override
    public String description() {
        return "records each request as an event";
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
