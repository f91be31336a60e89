package dev.graphema.cli;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.cli.output.Console;
import dev.graphema.collector.Collector;
import dev.graphema.collector.CollectorOptions;
import dev.graphema.terminal.Paint;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.PrintStream;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.ZoneId;
import java.util.concurrent.atomic.AtomicBoolean;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.io.TempDir;

class CollectVerbsTest {
    @TempDir
    private Path folder;

    private final AtomicBoolean isStopped = new AtomicBoolean();
    private final ByteArrayOutputStream printed = new ByteArrayOutputStream();
    private final ByteArrayOutputStream errors = new ByteArrayOutputStream();
    private String output;
    private String error;

    @Test
    @Timeout(60)
    void aCollectorRunsUntilItIsStoppedAndPrintsHowToUseIt() throws Exception {
        String store = folder.resolve("store").toString();
        Thread thread = new Thread(() -> run("collect", "--store", store, "--port", "0"));
        thread.start();
        while (!errors.toString(StandardCharsets.UTF_8).contains("to watch:")) {
            Thread.sleep(10);
        }
        String hints = errors.toString(StandardCharsets.UTF_8);
        String url = hints.substring("listening at ".length(), hints.indexOf(';'));
        assertTrue(hints.contains("to send lines: curl --data-binary @FILE " + url + "/lines"), hints);
        assertEquals(200, send(url, "{\"level\":\"info\",\"message\":\"lane closed\"}\n"));
        isStopped.set(true);
        thread.join();
        assertTrue(error.endsWith("ending; everything that was acknowledged is stored\n"), error);
        isStopped.set(false);
        assertEquals(0, run("find", "message = \"lane closed\"", "--in", store), error);
    }

    @Test
    @Timeout(60)
    void aPagePrintsALinkThatWorksOnce() throws Exception {
        Path log = Files.writeString(
                folder.resolve("gate.jsonl"), "{\"level\":\"warn\",\"service\":\"gate\",\"message\":\"closed\"}\n");
        System.setProperty("graphema.XDG_CONFIG_HOME", folder.resolve("config").toString());
        try {
            Thread thread = new Thread(() -> run("page", "level >= warn", "--last", "1h", "--in", log.toString()));
            thread.start();
            while (!printed.toString(StandardCharsets.UTF_8).endsWith("\n")) {
                Thread.sleep(10);
            }
            URI link = URI.create(printed.toString(StandardCharsets.UTF_8).strip());
            String secret = link.getFragment().replaceAll("once=([^&]*)&q=.*", "$1");
            assertTrue(link.toString().endsWith("&q=level+%3E%3D+warn+--last+1h"), link.toString());
            HttpResponse<String> session = post(link.resolve("/session"), "{\"once\":\"" + secret + "\"}", "");
            assertEquals(200, session.statusCode(), session.body());
            String cookie =
                    session.headers().firstValue("Set-Cookie").orElseThrow().replaceAll(";.*", "");
            assertTrue(post(link.resolve("/questions"), "{\"ask\":{\"kind\":\"counts\",\"by\":[\"message\"]}}", cookie)
                    .body()
                    .contains("closed"));
            assertEquals(
                    401,
                    post(link.resolve("/session"), "{\"once\":\"" + secret + "\"}", "")
                            .statusCode());
            isStopped.set(true);
            thread.join();
        } finally {
            System.clearProperty("graphema.XDG_CONFIG_HOME");
        }
    }

    private static HttpResponse<String> post(URI address, String body, String cookie)
            throws IOException, InterruptedException {
        HttpRequest request = HttpRequest.newBuilder(address)
                .header("Content-Type", "application/json")
                .header("Cookie", cookie)
                .POST(HttpRequest.BodyPublishers.ofString(body))
                .build();
        return HttpClient.newHttpClient().send(request, HttpResponse.BodyHandlers.ofString());
    }

    private static int send(String url, String lines) throws IOException, InterruptedException {
        HttpRequest request = HttpRequest.newBuilder(URI.create(url + "/lines"))
                .POST(HttpRequest.BodyPublishers.ofString(lines))
                .build();
        return HttpClient.newHttpClient()
                .send(request, HttpResponse.BodyHandlers.discarding())
                .statusCode();
    }

    @Test
    void aCollectorIsAskedTogetherWithFiles() throws Exception {
        Path log = Files.writeString(folder.resolve("gate.jsonl"), "{\"level\":\"warn\",\"service\":\"gate\"}\n");
        try (Collector collector = Collector.start(CollectorOptions.usual(folder.resolve("store"), System.err::println)
                .port(0))) {
            String url = "http://127.0.0.1:" + collector.port();
            send(url, "{\"level\":\"warn\",\"service\":\"deck\"}\n{\"level\":\"info\",\"service\":\"deck\"}\n");
            assertEquals(
                    0, run("tally", "service", "level = warn", "--as", "csv", "--in", url, "--in", log.toString()));
            assertTrue(output.contains("deck,1") && output.contains("gate,1") && !output.contains("info"), output);
        }
        assertEquals(2, run("find", "--in", "http://127.0.0.1:1"), error);
        assertTrue(error.contains("nobody answers there: check the address, and whether the collector runs"), error);
    }

    @Test
    void tokensAreCreatedListedAndRevoked() throws IOException {
        String store = Files.createDirectory(folder.resolve("store")).toString();
        assertEquals(0, run("token", "--store", store));
        assertTrue(error.contains("everybody on the collector's machine may send and read"), error);
        assertEquals(0, run("token", "--create", "mara", "--when", "service = deck", "--for", "30d", "--store", store));
        assertTrue(output.matches("graphema_[A-Za-z0-9_-]{43}\n"), output);
        String token = output.strip();
        assertEquals(0, run("token", "--store", store));
        assertTrue(output.startsWith("mara  may read events with service = deck, until "), output);
        assertFalse(output.contains(token));
        assertFalse(Files.readString(Path.of(store, "tokens.jsonl")).contains(token));
        assertEquals(0, run("token", "--revoke", "mara", "--store", store));
        assertEquals(0, run("token", "--store", store));
        assertTrue(error.contains("nobody may send or read"), error);
    }

    @Test
    void misuseIsExplained() throws IOException {
        String store = Files.createDirectory(folder.resolve("store")).toString();
        misused("there is no folder nowhere: name that of the collector's store", "token", "--store", "nowhere");
        misused(
                "there is no token \"mara\": list them without --revoke",
                "token",
                "--revoke",
                "mara",
                "--store",
                store);
        misused("\"a b\" is no name of a token: expected up to 100", "token", "--create", "a b", "--store", store);
        misused("--for never is not a valid duration", "token", "--create", "a", "--for", "never", "--store", store);
        misused(
                "--when restricts what a reader sees",
                "token",
                "--create",
                "a",
                "--role",
                "send",
                "--when",
                "level = info",
                "--store",
                store);
        misused("--create and --revoke are both given", "token", "--create", "a", "--revoke", "b", "--store", store);
        misused("--in http:// is not the address of a collector", "find", "--in", "http://");
        misused(
                "--in http://127.0.0.1:1 is no file and no folder, which are expected here",
                "shape",
                "--in",
                "http://127.0.0.1:1");
        assertEquals(
                2,
                run(
                        "collect",
                        "--host",
                        "0.0.0.0",
                        "--store",
                        folder.resolve("other").toString()));
        assertTrue(error.contains("0.0.0.0 can be reached from other machines"), error);
    }

    private void misused(String message, String... arguments) {
        assertEquals(2, run(arguments), error);
        assertTrue(error.contains(message), error);
    }

    private int run(String... arguments) {
        printed.reset();
        errors.reset();
        int code = Main.run(
                new Console(
                        "graphema",
                        InputStream.nullInputStream(),
                        printed,
                        new PrintStream(errors, true, StandardCharsets.UTF_8),
                        Paint.NONE,
                        0,
                        ZoneId.of("UTC"),
                        isStopped::get),
                arguments);
        output = printed.toString(StandardCharsets.UTF_8);
        error = errors.toString(StandardCharsets.UTF_8);
        return code;
    }
}
