package dev.graphema.delivery;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.BufferedInputStream;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Queue;
import java.util.TreeMap;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.zip.GZIPInputStream;

/** A receiver over bare sockets, which can misbehave in every way that a real one can. */
final class StandIn implements AutoCloseable {
    /** What to do with one request. */
    interface Behaviour {
        /** Answers, or not. */
        void answer(StandIn receiver, Request request, Socket socket) throws Exception;
    }

    record Request(Map<String, String> headers, byte[] body) {
        String text() {
            return new String(body, StandardCharsets.UTF_8);
        }

        List<JsonNode> lines() {
            return text().lines().map(StandIn::json).toList();
        }
    }

    static final Behaviour TAKE = (receiver, request, socket) -> {
        receiver.taken.add(request);
        reply(socket, "200 OK", "", "{}");
    };

    final List<Request> taken = new CopyOnWriteArrayList<>();
    final List<Request> seen = new CopyOnWriteArrayList<>();
    final Queue<Behaviour> next = new ConcurrentLinkedQueue<>();
    volatile Behaviour usual = TAKE;

    private static final ObjectMapper JSON = new ObjectMapper();

    private final ServerSocket server;
    private final List<Socket> open = new CopyOnWriteArrayList<>();

    StandIn() throws IOException {
        this(0);
    }

    /** On that port, for one that comes back. */
    StandIn(int port) throws IOException {
        server = new ServerSocket();
        server.setReuseAddress(true);
        server.bind(new java.net.InetSocketAddress(InetAddress.getLoopbackAddress(), port));
        Thread thread = new Thread(this::accept, "stand-in");
        thread.setDaemon(true);
        thread.start();
    }

    /** A status without more. */
    static Behaviour status(String status, String... headers) {
        return (receiver, request, socket) -> reply(socket, status, String.join("\r\n", headers), "no");
    }

    /** Answers with any bytes, which need not be HTTP. */
    static Behaviour raw(boolean takes, String bytes) {
        return (receiver, request, socket) -> {
            if (takes) {
                receiver.taken.add(request);
            }
            socket.getOutputStream().write(bytes.getBytes(StandardCharsets.ISO_8859_1));
            socket.getOutputStream().flush();
            socket.close();
        };
    }

    /** Never answers. */
    static Behaviour hang() {
        return (receiver, request, socket) -> Thread.sleep(60_000);
    }

    int port() {
        return server.getLocalPort();
    }

    String url(String path) {
        return "http://127.0.0.1:" + port() + path;
    }

    /** The numbers of the events that were taken, in order, the second copies of the same id left out. */
    List<Integer> numbers() {
        Map<String, Integer> byId = new java.util.LinkedHashMap<>();
        // Graphema's own events, such as the report of losses, have no number.
        taken.forEach(request -> request.lines().stream()
                .filter(line -> line.at("/fields/number").isInt())
                .forEach(line -> byId.putIfAbsent(
                        line.get("id").asText(),
                        line.get("fields").get("number").asInt())));
        return new ArrayList<>(byId.values());
    }

    static JsonNode json(String text) {
        try {
            return JSON.readTree(text);
        } catch (IOException e) {
            throw new AssertionError(text, e);
        }
    }

    private void accept() {
        while (!server.isClosed()) {
            try {
                Socket socket = server.accept();
                open.add(socket);
                Thread thread = new Thread(() -> serve(socket), "stand-in-connection");
                thread.setDaemon(true);
                thread.start();
            } catch (IOException e) {
                return; // closed
            }
        }
    }

    private void serve(Socket socket) {
        try (socket) {
            InputStream in = new BufferedInputStream(socket.getInputStream());
            while (true) {
                Request request = read(in);
                if (request == null) {
                    return;
                }
                seen.add(request);
                Behaviour behaviour = next.poll();
                (behaviour == null ? usual : behaviour).answer(this, request, socket);
            }
        } catch (Exception e) {
            // The sender has gone, or this one is being closed.
        }
    }

    private static Request read(InputStream in) throws IOException {
        String first = line(in);
        if (first.isEmpty()) {
            return null;
        }
        Map<String, String> headers = new TreeMap<>();
        headers.put(":first", first);
        for (String line = line(in); !line.isEmpty(); line = line(in)) {
            headers.put(
                    line.substring(0, line.indexOf(':')).toLowerCase(Locale.ROOT),
                    line.substring(line.indexOf(':') + 1).trim());
        }
        byte[] body = in.readNBytes(Integer.parseInt(headers.getOrDefault("content-length", "0")));
        if ("gzip".equals(headers.get("content-encoding"))) {
            body = new GZIPInputStream(new ByteArrayInputStream(body)).readAllBytes();
        }
        return new Request(headers, body);
    }

    private static String line(InputStream in) throws IOException {
        StringBuilder line = new StringBuilder();
        for (int c = in.read(); c >= 0 && c != '\n'; c = in.read()) {
            if (c != '\r') {
                line.append((char) c);
            }
        }
        return line.toString();
    }

    static void reply(Socket socket, String status, String headers, String body) throws IOException {
        String head = "HTTP/1.1 " + status + "\r\n" + (headers.isEmpty() ? "" : headers + "\r\n") + "Content-Length: "
                + body.length() + "\r\n\r\n";
        socket.getOutputStream().write((head + body).getBytes(StandardCharsets.US_ASCII));
        socket.getOutputStream().flush();
    }

    @Override
    public void close() throws IOException {
        server.close();
        for (Socket socket : open) {
            socket.close();
        }
    }
}
