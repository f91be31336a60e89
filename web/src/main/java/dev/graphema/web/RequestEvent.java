package dev.graphema.web;

import dev.graphema.Logger;
import dev.graphema.Operation;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.function.UnaryOperator;

/** The operation of a request, from its first byte to its last, for all kinds of servers. */
final class RequestEvent {
    private final Operation operation;
    private final RequestOptions options;

    private RequestEvent(Operation operation, RequestOptions options) {
        this.operation = operation;
        this.options = options;
    }

    /** @param headers returns the value of the request header with this name, several joined by commas, or null */
    static RequestEvent begin(Logger log, RequestOptions options, UnaryOperator<String> headers) {
        return new RequestEvent(log.operation(RequestFilter.NAME, headers), options);
    }

    Operation operation() {
        return operation;
    }

    void asked(
            String method,
            String route,
            String path,
            String query,
            String remoteAddress,
            UnaryOperator<String> headers) {
        operation.put("method", method);
        if (route != null) {
            operation.put("route", route);
        }
        operation.put("path", path);
        if (query != null) {
            operation.put("query", QueryText.shown(query, options));
        }
        if (options.remoteAddress()) {
            operation.put("remote", remoteAddress);
        }
        Map<String, String> wanted = new LinkedHashMap<>();
        for (String name : options.headers()) {
            String value = headers.apply(name);
            if (value != null) {
                wanted.put(name, value);
            }
        }
        if (!wanted.isEmpty()) {
            operation.group("headers", group -> wanted.forEach(group::put));
        }
    }

    /** @param status the status of the answer, or a negative number if there was none */
    void answered(int status, BodyHead request, BodyHead response) {
        if (status >= 0) {
            operation.put("status", status);
        }
        operation.put("request_bytes", request.count()).put("response_bytes", response.count());
        String body = request.text();
        if (body != null) {
            operation.put("body", body);
        }
        if (status >= 0 && status < 500) {
            operation.succeed();
        }
    }

    void failed(Throwable problem) {
        operation.fail(problem);
    }
}
