package dev.graphema.collector.page;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.collector.LocalPage;
import dev.graphema.query.source.MemorySource;
import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The files of the page, and who gets them. */
class PageFilesTest {
    private static final Path FILES = Path.of("target/classes/dev/graphema/collector/page");
    private static final int MOST_BYTES = 1 << 20;

    @TempDir
    Path folder;

    private LocalPage page;

    @BeforeEach
    void start() throws IOException {
        page = LocalPage.start(new MemorySource(List.of()), 0, folder, problem -> {
            throw new AssertionError(problem);
        });
    }

    @AfterEach
    void stop() throws IOException {
        page.close();
    }

    private HttpResponse<byte[]> get(String path, String... headers) throws IOException, InterruptedException {
        HttpRequest.Builder request = HttpRequest.newBuilder(page.address("").resolve(path));
        if (headers.length > 0) {
            request.headers(headers);
        }
        return HttpClient.newHttpClient().send(request.build(), HttpResponse.BodyHandlers.ofByteArray());
    }

    @Test
    void scriptsAndStylesAreOfThisServerOnly() throws Exception {
        HttpResponse<byte[]> index = get("/");
        String policy = index.headers().firstValue("Content-Security-Policy").orElseThrow();

        assertTrue(policy.startsWith("default-src 'none'; script-src 'self' 'nonce-"), policy);
        assertFalse(policy.contains("unsafe"), policy);
        assertTrue(policy.contains("require-trusted-types-for 'script'"), policy);
        assertTrue(policy.contains("connect-src 'self'") && policy.contains("frame-ancestors 'none'"), policy);
        assertEquals(
                "no-referrer", index.headers().firstValue("Referrer-Policy").orElseThrow());
        assertFalse(
                get("/").headers()
                        .firstValue("Content-Security-Policy")
                        .orElseThrow()
                        .equals(policy),
                "the nonce is used once");
    }

    @Test
    void allFilesTogetherHaveLessThanAMegabyte() throws Exception {
        long sum = get("/").body().length;
        try (Stream<Path> files = Files.walk(FILES)) {
            for (Path file : files.filter(each -> each.toString().matches(".*\\.(js|css|svg)"))
                    .toList()) {
                HttpResponse<byte[]> response =
                        get("/page/" + FILES.relativize(file).toString().replace('\\', '/'));
                assertEquals(200, response.statusCode(), file.toString());
                sum += response.body().length;
            }
        }

        assertTrue(sum < MOST_BYTES, sum + " bytes");
    }

    @Test
    void eachLibraryHasItsLicence() throws Exception {
        Set<String> libraries = new TreeSet<>();
        Matcher imported = Pattern.compile("/page/library/([a-z0-9_-]+)\\.js").matcher(new String(get("/").body()));
        while (imported.find()) {
            libraries.add(imported.group(1));
        }

        assertEquals(12, libraries.size());
        for (String each : libraries) {
            assertEquals(200, get("/page/library/" + each + ".LICENSE").statusCode(), each);
        }
    }

    @Test
    void aLinkOnAnotherSiteOpensThePageAndNothingElse() throws Exception {
        assertEquals(200, get("/", "Sec-Fetch-Site", "cross-site").statusCode());
        assertEquals(403, get("/session", "Sec-Fetch-Site", "cross-site").statusCode());
        assertEquals(403, get("/live", "Sec-Fetch-Site", "cross-site").statusCode());
    }

    @Test
    void aBoardContainsNoVariablesOfTheServer() throws Exception {
        String secret = page.address("").getFragment().replaceAll("once=([^&]*).*", "$1");
        String cookie = session("{\"once\":\"" + secret + "\"}")
                .headers()
                .firstValue("Set-Cookie")
                .orElseThrow()
                .replaceAll(";.*", "");
        HttpResponse<String> kept = HttpClient.newHttpClient()
                .send(
                        HttpRequest.newBuilder(page.address("").resolve("/boards?name=a"))
                                .header("Cookie", cookie)
                                .POST(HttpRequest.BodyPublishers.ofString(
                                        "parts: [{title: \"${PATH}\", question: level >= error, show: count}]"))
                                .build(),
                        HttpResponse.BodyHandlers.ofString());
        assertEquals(200, kept.statusCode(), kept.body());

        String boards = new String(get("/boards", "Cookie", cookie).body(), StandardCharsets.UTF_8);
        assertTrue(boards.contains("\"title\":\"${PATH}\""), boards);
    }

    @Test
    void aKnownFileIsNotSentAgain() throws Exception {
        String tag = get("/page/app.js").headers().firstValue("ETag").orElseThrow();

        assertEquals(304, get("/page/app.js", "If-None-Match", tag).statusCode());
    }

    @Test
    void otherFilesAreNotSent() throws Exception {
        for (String path : List.of(
                "/page/none.js",
                "/page/PageFiles.class",
                "/page/library/../app.js",
                "/page/%2e%2e/openapi.json",
                "/page/")) {
            int status = get(path).statusCode();
            assertTrue(status == 404 || status == 400, path + ": " + status);
        }
    }

    @Test
    void aLinkCanBeOpenedOnce() throws Exception {
        URI address = page.address("level >= error");
        String secret = address.getFragment().replaceAll("once=([^&]*).*", "$1");
        assertTrue(address.toString().endsWith("&q=level+%3E%3D+error"), address.toString());
        assertEquals(401, get("/session").statusCode());
        assertEquals(401, session("{\"once\":\"guessed\"}").statusCode());
        HttpResponse<String> first = session("{\"once\":\"" + secret + "\"}");
        assertEquals(200, first.statusCode());
        String cookie = first.headers().firstValue("Set-Cookie").orElseThrow();
        assertTrue(cookie.contains("HttpOnly") && cookie.contains("SameSite=Strict"), cookie);

        assertEquals(
                200, get("/session", "Cookie", cookie.replaceAll(";.*", "")).statusCode());
        assertEquals(401, session("{\"once\":\"" + secret + "\"}").statusCode());
    }

    private HttpResponse<String> session(String body) throws IOException, InterruptedException {
        return HttpClient.newHttpClient()
                .send(
                        HttpRequest.newBuilder(page.address("").resolve("/session"))
                                .POST(HttpRequest.BodyPublishers.ofString(body))
                                .build(),
                        HttpResponse.BodyHandlers.ofString());
    }
}
