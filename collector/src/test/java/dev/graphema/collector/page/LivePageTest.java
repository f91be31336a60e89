package dev.graphema.collector.page;

import static org.junit.jupiter.api.Assertions.assertEquals;

import dev.graphema.collector.Collector;
import dev.graphema.collector.CollectorOptions;
import dev.graphema.collector.alert.AlertRule;
import dev.graphema.collector.alert.AlertTest;
import dev.graphema.condition.Condition;
import java.io.IOException;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
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
            browser.until("document.getElementById('summary').textContent.includes('1 arrived')");

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

    @Test
    void alertsShowTheirStateAndWhenTheyWouldHaveFired() throws Exception {
        Browser.assumeInstalled();
        CollectorOptions options = CollectorOptions.usual(folder, problem -> {
                    throw new AssertionError(problem);
                })
                .port(0)
                .alert(new AlertRule(
                        "refused",
                        Condition.parse("level >= error"),
                        new AlertTest.MoreThan(1),
                        Duration.ofMinutes(5),
                        null,
                        Duration.ZERO,
                        Duration.ofMinutes(5),
                        List.of()));
        try (Collector collector = Collector.start(options);
                Browser browser = Browser.open(1280, 800, false)) {
            for (int i = 0; i < 3; i++) {
                send(collector, i);
            }
            browser.go(collector.address().resolve("/#zone=UTC&view=alerts"));
            browser.until("document.querySelector('#view .state')");
            browser.click("#view button", "try over the last week");
            browser.until("document.querySelector('dialog')?.textContent.includes('would have fired')");
            browser.keys(Browser.ESCAPE);
            browser.until("!document.querySelector('dialog')");
            browser.click("#view button", "mute for 2 h");
            browser.until("document.querySelector('#view .state')?.textContent.includes('muted until')");
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
