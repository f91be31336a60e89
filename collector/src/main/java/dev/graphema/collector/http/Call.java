package dev.graphema.collector.http;

import jakarta.servlet.AsyncContext;
import jakarta.servlet.http.Cookie;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.io.OutputStream;
import java.net.URLDecoder;
import java.nio.charset.StandardCharsets;
import java.util.Locale;

/** A request and its response. For one thread. */
public final class Call {
    private final HttpServletRequest request;
    private final HttpServletResponse response;
    private final BodyMemory memory;
    private long taken;

    Call(HttpServletRequest request, HttpServletResponse response, BodyMemory memory) {
        this.request = request;
        this.response = response;
        this.memory = memory;
    }

    /** Releases what was taken for the body. */
    void done() {
        memory.release(taken);
        taken = 0;
    }

    /**
     * Reads the body, which is inflated if it is compressed.
     *
     * @throws Problem if it is too long, too slow, or damaged
     */
    public byte[] body() throws Problem, IOException {
        RequestBody body = new RequestBody(request, memory);
        try {
            return body.read();
        } finally {
            taken += body.taken();
        }
    }

    /** Returns a parameter of the query; null if it is missing. */
    public String parameter(String name) throws Problem {
        String query = request.getQueryString();
        if (query == null) {
            return null;
        }
        // That of the container also reads a body that looks like a form, as that of curl does by default.
        for (String each : query.split("&")) {
            int end = each.indexOf('=');
            if (name.equals(decoded(end < 0 ? each : each.substring(0, end)))) {
                return end < 0 ? "" : decoded(each.substring(end + 1));
            }
        }
        return null;
    }

    private static String decoded(String text) throws Problem {
        try {
            return URLDecoder.decode(text, StandardCharsets.UTF_8);
        } catch (IllegalArgumentException e) {
            throw new Problem(400, "The address is damaged", "\"" + text + "\" is not encoded as in an address");
        }
    }

    /** Returns the path. */
    public String path() {
        return request.getRequestURI();
    }

    /** Returns a header; null if it is missing. */
    public String header(String name) {
        return request.getHeader(name);
    }

    /** Returns a cookie; null if it is missing. */
    public String cookie(String name) {
        if (request.getCookies() != null) {
            for (Cookie each : request.getCookies()) {
                if (each.getName().equals(name)) {
                    return each.getValue();
                }
            }
        }
        return null;
    }

    /** Sets a header of the answer. */
    public void setHeader(String name, String value) {
        response.setHeader(name, value);
    }

    /** Returns the address of whoever sends the request. */
    public String address() {
        return request.getRemoteAddr();
    }

    /** Returns the media type of the body in lower case, without its parameters; empty if it is missing. */
    public String mediaType() {
        String type = request.getContentType();
        return type == null ? "" : type.split(";", 2)[0].strip().toLowerCase(Locale.ROOT);
    }

    /** Answers with a text. */
    public void send(int status, String mediaType, String text) throws IOException {
        send(status, mediaType, text.getBytes(StandardCharsets.UTF_8));
    }

    /** Answers with bytes. */
    public void send(int status, String mediaType, byte[] bytes) throws IOException {
        response.setStatus(status);
        response.setContentType(mediaType);
        response.setContentLength(bytes.length);
        response.getOutputStream().write(bytes);
    }

    /** Answers with a problem in a form of its own, if a protocol has one. */
    public void refuse(Problem problem, String mediaType, byte[] bytes) throws IOException {
        if (problem.retryAfterSeconds() > 0) {
            response.setHeader("Retry-After", Integer.toString(problem.retryAfterSeconds()));
        }
        send(problem.status(), mediaType, bytes);
    }

    /** Writes an answer of unknown length. */
    @FunctionalInterface
    public interface Writing {
        void to(OutputStream stream) throws IOException;
    }

    /**
     * Sends an answer of unknown length. If it cannot be completed, the client notices that: the stream is ended only behind a complete
     * answer.
     */
    public void stream(String mediaType, Writing writing) throws IOException {
        response.setStatus(HttpServletResponse.SC_OK);
        response.setContentType(mediaType);
        OutputStream stream = response.getOutputStream();
        writing.to(stream);
        stream.close();
    }

    /** Begins an answer that has no end: it is written by other threads. */
    public AsyncContext endless(String mediaType) throws IOException {
        response.setStatus(HttpServletResponse.SC_OK);
        response.setContentType(mediaType);
        response.setHeader("Cache-Control", "no-store");
        AsyncContext context = request.startAsync();
        context.setTimeout(0);
        return context;
    }
}
