package dev.graphema.collector.page;

import dev.graphema.collector.Collector;
import dev.graphema.collector.CollectorOptions;
import dev.graphema.collector.LocalPage;
import dev.graphema.segments.store.Store;
import dev.graphema.segments.store.StoreOptions;
import dev.graphema.segments.store.StoreSource;
import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.Comparator;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;

/**
 * Measures the page in a browser, and prints figures: the first paint, the first rows, frames while a million events are scrolled, and the
 * memory of the browser during live view. It is no test: {@code scripts/benchmarks --page} runs it.
 */
public final class PageTimes {
    private static final int EVENTS = 1_000_000;
    private static final int BATCH = 10_000;
    private static final int RUNS = 5;
    private static final int FRAMES = 600;
    private static final int LIVE_PER_SECOND = 20;

    private PageTimes() {}

    /** @param arguments the minutes of live view, or nothing for 5 */
    public static void main(String[] arguments) throws Exception {
        int minutes = arguments.length > 0 ? Integer.parseInt(arguments[0]) : 5;
        Path folder = Files.createTempDirectory("graphema-page-times");
        try {
            million(folder.resolve("million"), folder.resolve("kept"));
            live(folder.resolve("live"), minutes);
        } finally {
            try (Stream<Path> files = Files.walk(folder)) {
                files.sorted(Comparator.reverseOrder()).map(Path::toFile).forEach(java.io.File::delete);
            }
        }
    }

    private static void million(Path store, Path kept) throws IOException {
        try (Store written = Store.open(store, StoreOptions.usual(System.err::println))) {
            for (int i = 0; i < EVENTS; i += BATCH) {
                StringBuilder lines = new StringBuilder();
                for (int j = i; j < i + BATCH; j++) {
                    lines.append(line(Instant.ofEpochSecond(1_778_824_800L + j / 100, j % 100 * 10_000_000L), j));
                }
                written.append(lines.toString().getBytes(StandardCharsets.UTF_8));
            }
        }
        Files.createDirectories(kept);
        for (int run = 1; run <= RUNS; run++) {
            try (LocalPage page = LocalPage.start(StoreSource.at(store), 0, kept, System.err::println);
                    Browser browser = Browser.open(1280, 800, false)) {
                browser.go(URI.create(page.address("") + "&zone=UTC"));
                browser.until(
                        "window.graphema?.list.index?.isComplete && window.graphema.list.index.total === " + EVENTS);
                String paint = browser.script(
                        "return Math.round(performance.getEntriesByName('first-contentful-paint')[0].startTime)");
                String rows =
                        browser.script("return Math.round(performance.getEntriesByName('first-rows')[0].startTime)");
                System.out.printf(
                        "run %d: first paint %s ms, first rows of %,d events %s ms%n", run, paint, EVENTS, rows);
                System.out.println("run " + run + ": " + frames(browser));
            }
        }
    }

    /** Scrolls three rows per frame, and then far per frame. */
    private static String frames(Browser browser) throws IOException {
        StringBuilder text = new StringBuilder();
        for (int pixels : new int[] {60, 5_000}) {
            browser.script(
                    "window.frames_ = null; const s = window.graphema.list.scroller; s.scrollTop = 1000; const times = []; let last = performance.now();"
                            + " const next = now => { times.push(now - last); last = now; s.scrollTop += " + pixels
                            + "; if (times.length < " + FRAMES
                            + ") requestAnimationFrame(next); else { times.sort((a, b) => a - b); window.frames_ = 'median ' + times[times.length >> 1].toFixed(1)"
                            + " + ' ms, 99 % ' + times[Math.floor(times.length * 0.99)].toFixed(1) + ' ms, over 20 ms ' + times.filter(t => t > 20).length; } };"
                            + " requestAnimationFrame(next);");
            browser.until("window.frames_ !== null");
            text.append(text.isEmpty() ? "" : "; ")
                    .append(FRAMES + " frames, each " + pixels + " pixels: ")
                    .append(browser.script("return window.frames_"));
        }
        return text.toString();
    }

    private static void live(Path store, int minutes) throws Exception {
        CollectorOptions options =
                CollectorOptions.usual(store, System.err::println).port(0);
        HttpClient http = HttpClient.newHttpClient();
        try (Collector collector = Collector.start(options);
                Browser browser = Browser.open(1280, 800, false)) {
            browser.go(collector.address().resolve("/#view=live"));
            browser.until("document.querySelector('.live')");
            int sent = 0;
            for (int minute = 0; minute <= minutes; minute++) {
                for (int second = 0; second < 60 && minute > 0; second++) {
                    StringBuilder lines = new StringBuilder();
                    for (int i = 0; i < LIVE_PER_SECOND; i++) {
                        lines.append(line(Instant.now(), sent++));
                    }
                    http.send(
                            HttpRequest.newBuilder(collector.address().resolve("/lines"))
                                    .POST(HttpRequest.BodyPublishers.ofString(lines.toString()))
                                    .build(),
                            HttpResponse.BodyHandlers.discarding());
                    TimeUnit.SECONDS.sleep(1);
                }
                System.out.printf(
                        "live, minute %d: %,d events, JavaScript heap %s MB, %s elements%n",
                        minute,
                        sent,
                        browser.script(
                                "window.gc?.(); return (performance.memory.usedJSHeapSize / 1048576).toFixed(1)"),
                        browser.script("return document.querySelectorAll('*').length"));
            }
        }
    }

    private static String line(Instant time, int number) {
        String level = number % 50 == 0 ? "error" : number % 20 == 0 ? "warn" : "info";
        String nanos = "%s.%09dZ".formatted(time.toString().substring(0, 19), time.getNano());
        return "{\"time\":\"" + nanos + "\",\"level\":\"" + level + "\",\"service\":\"deck\",\"instance\":\"deck-"
                + number % 8
                + "\",\"logger\":\"skerry.deck.Lanes\",\"message\":\"reserve lanes\",\"trace\":\"%032x\",\"thread\":\"main\",\"sequence\":"
                        .formatted(number / 5 + 1L)
                + number + ",\"fields\":{\"lane\":\"A" + number % 9 + "\",\"lock_wait_ms\":" + number % 250 + "}}\n";
    }
}
