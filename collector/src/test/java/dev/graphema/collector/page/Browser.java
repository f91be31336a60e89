package dev.graphema.collector.page;

import static org.junit.jupiter.api.Assertions.fail;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonGenerator;
import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonToken;
import java.io.Closeable;
import java.io.File;
import java.io.IOException;
import java.io.StringWriter;
import java.net.ServerSocket;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.Arrays;
import java.util.Locale;
import java.util.concurrent.TimeUnit;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;

/** A real browser, driven over the WebDriver protocol (W3C). For one thread. */
public final class Browser implements Closeable {
    private static final HttpClient HTTP = HttpClient.newHttpClient();
    private static final JsonFactory JSON = new JsonFactory();
    private static final Duration LONGEST = Duration.ofSeconds(60);
    private static final Pattern SESSION = Pattern.compile("\"sessionId\":\"([^\"]+)\"");
    private static final int PORT_TRIES = 100;
    private static final int NARROWEST_WINDOW = 500;

    static final String ENTER = "\uE007";
    static final String ESCAPE = "\uE00C";
    static final String SHIFT = "\uE008";
    static final String RIGHT = "\uE014";
    static final String DOWN = "\uE015";

    private final Process driver;
    private final URI base;
    private String session = "";

    private Browser(Process driver, URI base) {
        this.driver = driver;
        this.base = base;
    }

    /** Skips the test if there is no browser. */
    public static void assumeInstalled() {
        assumeTrue(
                found("chromedriver") != null && found("chromium") != null,
                "skipped: it needs chromium and chromedriver in the PATH");
    }

    private static Path found(String program) {
        return Arrays.stream(System.getenv("PATH").split(File.pathSeparator))
                .map(folder -> Path.of(folder, program))
                .filter(Files::isExecutable)
                .findFirst()
                .orElse(null);
    }

    public static Browser open(int width, int height, boolean isDark) throws IOException {
        int port;
        try (ServerSocket free = new ServerSocket(0)) {
            port = free.getLocalPort();
        }
        Process driver = new ProcessBuilder(found("chromedriver").toString(), "--port=" + port)
                .redirectErrorStream(true)
                .redirectOutput(ProcessBuilder.Redirect.DISCARD)
                .start();
        Browser browser = new Browser(driver, URI.create("http://127.0.0.1:" + port));
        try {
            browser.begin(width, height, isDark);
        } catch (IOException | RuntimeException | Error e) {
            browser.close();
            throw e;
        }
        return browser;
    }

    private void begin(int width, int height, boolean isDark) throws IOException {
        for (int i = 0; ; i++) {
            try {
                send("GET", "/status", null);
                break;
            } catch (IOException e) {
                if (i == PORT_TRIES) {
                    throw e;
                }
                pause(100);
            }
        }
        String answer = send(
                "POST",
                "/session",
                "{\"capabilities\":{\"alwaysMatch\":{\"goog:loggingPrefs\":{\"browser\":\"ALL\"},\"goog:chromeOptions\":{\"binary\":\""
                        + found("chromium")
                        + "\",\"args\":[\"--headless=new\",\"--no-sandbox\",\"--disable-gpu\",\"--disable-dev-shm-usage\",\"--lang=en-US\","
                        + "\"--hide-scrollbars\",\"--enable-precise-memory-info\",\"--js-flags=--expose-gc\",\"--window-size="
                        + width + "," + height
                        + "\",\"--blink-settings=preferredColorScheme="
                        + (isDark ? 0 : 1) + "\"]}}}}");
        Matcher found = SESSION.matcher(answer);
        if (!found.find()) {
            throw new IOException("no session: " + answer);
        }
        session = "/session/" + found.group(1);
        if (width < NARROWEST_WINDOW) {
            send(
                    "POST",
                    "/goog/cdp/execute",
                    "{\"cmd\":\"Emulation.setDeviceMetricsOverride\",\"params\":{\"width\":" + width + ",\"height\":"
                            + height + ",\"deviceScaleFactor\":1,\"mobile\":false}}");
        }
    }

    private String send(String method, String path, String body) throws IOException {
        HttpRequest.Builder request = HttpRequest.newBuilder(base.resolve(session + path))
                .timeout(LONGEST)
                .header("Content-Type", "application/json; charset=utf-8")
                .method(
                        method,
                        body == null ? HttpRequest.BodyPublishers.noBody() : HttpRequest.BodyPublishers.ofString(body));
        try {
            HttpResponse<String> response = HTTP.send(request.build(), HttpResponse.BodyHandlers.ofString());
            if (response.statusCode() != 200) {
                throw new IOException(path + ": " + response.body());
            }
            return response.body();
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new IOException(e);
        }
    }

    public void go(URI address) throws IOException {
        send("POST", "/url", "{\"url\":" + quoted(address.toString()) + "}");
    }

    /** Runs a script, whose value is returned as text. */
    public String script(String script, String... arguments) throws IOException {
        StringWriter text = new StringWriter();
        try (JsonGenerator json = JSON.createGenerator(text)) {
            json.writeStartObject();
            json.writeStringField(
                    "script",
                    "const v = (() => {" + script + "})(); return v === undefined || v === null ? '' : String(v);");
            json.writeArrayFieldStart("args");
            for (String each : arguments) {
                json.writeString(each);
            }
            json.writeEndArray();
            json.writeEndObject();
        }
        return value(send(
                "POST",
                "/execute/sync",
                text.toString().replace("(() =>", "((...args) =>").replace("})();", "})(...arguments);")));
    }

    private static String value(String answer) throws IOException {
        try (JsonParser json = JSON.createParser(answer)) {
            while (json.nextToken() != null) {
                if (json.currentToken() == JsonToken.FIELD_NAME
                        && json.currentName().equals("value")) {
                    json.nextToken();
                    return json.getText();
                }
            }
        }
        throw new IOException("no value: " + answer);
    }

    private static String quoted(String text) {
        StringWriter quoted = new StringWriter();
        try (JsonGenerator json = JSON.createGenerator(quoted)) {
            json.writeString(text);
        } catch (IOException e) {
            throw new IllegalStateException("a string has no errors", e);
        }
        return quoted.toString();
    }

    /** Waits until an expression is true. */
    public void until(String expression) throws IOException {
        long end = System.nanoTime() + LONGEST.toNanos();
        String last;
        do {
            last = script("try { return Boolean(" + expression + "); } catch (e) { return e.message; }");
            if (last.equals("true")) {
                return;
            }
            pause(50);
        } while (System.nanoTime() - end < 0);
        fail(expression + " is " + last + "; the page shows: "
                + script("return document.body.innerText.slice(0, 2000)"));
    }

    /** Clicks the first element that matches a selector and contains a text. */
    void click(String selector, String text) throws IOException {
        until("[...document.querySelectorAll(" + quoted(selector) + ")].some(e => e.textContent.includes("
                + quoted(text) + ") && (e.click(), true))");
    }

    /** Types keys one after the other, as a keyboard does. */
    void keys(String... keys) throws IOException {
        keys(false, keys);
    }

    void keysWithShift(String... keys) throws IOException {
        keys(true, keys);
    }

    private void keys(boolean isShifted, String... keys) throws IOException {
        Stream<String> pressed = Arrays.stream(keys)
                .flatMap(key -> key.codePoints().mapToObj(Character::toString))
                .map(key -> "{\"type\":\"keyDown\",\"value\":" + quoted(key) + "},{\"type\":\"keyUp\",\"value\":"
                        + quoted(key) + "}");
        Stream<String> all = isShifted
                ? Stream.concat(
                        Stream.of("{\"type\":\"keyDown\",\"value\":" + quoted(SHIFT) + "}"),
                        Stream.concat(pressed, Stream.of("{\"type\":\"keyUp\",\"value\":" + quoted(SHIFT) + "}")))
                : pressed;
        send(
                "POST",
                "/actions",
                "{\"actions\":[{\"type\":\"key\",\"id\":\"keys\",\"actions\":[" + String.join(",", all.toList())
                        + "]}]}");
    }

    /** Drags the mouse from one place of the window to another. */
    void drag(int fromX, int fromY, int toX, int toY) throws IOException {
        String move = "{\"type\":\"pointerMove\",\"duration\":50,\"x\":%d,\"y\":%d}";
        send(
                "POST",
                "/actions",
                "{\"actions\":[{\"type\":\"pointer\",\"id\":\"mouse\",\"parameters\":{\"pointerType\":\"mouse\"},\"actions\":["
                        + move.formatted(fromX, fromY) + ",{\"type\":\"pointerDown\",\"button\":0},"
                        + move.formatted(toX, toY)
                        + ",{\"type\":\"pointerUp\",\"button\":0}]}]}");
    }

    /** Returns the errors that the browser has reported since the last call. */
    public String errors() throws IOException {
        String log = send("POST", "/se/log", "{\"type\":\"browser\"}");
        return log.toUpperCase(Locale.ROOT).contains("\"SEVERE\"") || log.contains("Content Security Policy")
                ? log
                : "";
    }

    private static void pause(long millis) {
        try {
            TimeUnit.MILLISECONDS.sleep(millis);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    @Override
    public void close() throws IOException {
        try {
            if (!session.isEmpty()) {
                send("DELETE", "", null);
            }
        } finally {
            driver.descendants().forEach(ProcessHandle::destroyForcibly);
            driver.destroyForcibly();
        }
    }
}
