package dev.graphema.collector.page;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.collector.Collector;
import dev.graphema.collector.CollectorOptions;
import java.io.IOException;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.file.Path;
import java.time.Instant;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The page of a collector: events as they arrive, and its alerts. */
class LivePageTest {
    @TempDir
    Path folder;

    @Test
    void eventsAppearAsTheyArrive() throws Exception {
        Browser.assumeInstalled();
        CollectorOptions options = CollectorOptions.usual(folder, problem -> {
                    throw new AssertionError(problem);
                })
                .port(0);
        try (Collector collector = Collector.start(options);
                Browser browser = Browser.open(1280, 800, false)) {
            send(collector, 0);
            browser.go(collector.address().resolve("/#zone=UTC&view=live"));
            browser.until("document.querySelectorAll('.live .event').length === 1");
            send(collector, 1);
            browser.until("document.querySelectorAll('.live .event').length === 2");
            assertTrue(browser.script("return document.getElementById('summary').textContent")
                    .contains("1 arrived"));

            browser.script("document.querySelector('.live').focus()");
            browser.keys(" ");
            send(collector, 2);
            browser.until("document.querySelector('.resume').textContent.startsWith('1 new')");
            assertEquals("2", browser.script("return document.querySelectorAll('.live .event').length"));
            browser.keys(" ");
            browser.until("document.querySelectorAll('.live .event').length === 3");
            assertEquals("", browser.errors());
        }
    }

    private static void send(Collector collector, int number) throws IOException, InterruptedException {
        HttpRequest request = HttpRequest.newBuilder(collector.address().resolve("/lines"))
                .POST(HttpRequest.BodyPublishers.ofString("{\"time\":\"" + Instant.now()
                        + "\",\"level\":\"error\",\"service\":\"deck\",\"logger\":\"a.B\",\"message\":\"refused\",\"thread\":\"main\","
                        + "\"sequence\":" + number + "}\n"))
                .build();
        assertEquals(
                200,
                HttpClient.newHttpClient()
                        .send(request, HttpResponse.BodyHandlers.ofString())
                        .statusCode());
    }
}
