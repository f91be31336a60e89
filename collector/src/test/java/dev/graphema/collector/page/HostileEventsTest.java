package dev.graphema.collector.page;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.collector.LocalPage;
import dev.graphema.lines.LineFiles;
import java.io.IOException;
import java.net.URI;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Events whose texts want to be more than texts. */
class HostileEventsTest {
    private static final String SCRIPT = "<script>window.wasRun = 1</script><img src=x onerror='window.wasRun = 1'>";
    private static final String DIRECTION = "\\u202Egnirts\\u202C";

    @TempDir
    Path folder;

    @Test
    void theyAreTexts() throws IOException {
        Browser.assumeInstalled();
        Path logs = Files.createDirectory(folder.resolve("logs"));
        String fields = IntStream.range(0, 2_000)
                .mapToObj(i -> "\"f" + i + "\":\"v" + i + "\"")
                .collect(Collectors.joining(","));
        Files.writeString(
                logs.resolve("a.jsonl"),
                line(1, SCRIPT, "\"k\":1", SCRIPT)
                        + line(
                                2,
                                "direction " + DIRECTION,
                                "\"" + SCRIPT.replace("\"", "") + "\":\"${x} {{y}} <b>\"",
                                "s")
                        + line(3, "long " + "x".repeat(1_000_000), "\"k\":\"" + "<i>".repeat(100_000) + "\"", "s")
                        + line(4, "wide", fields, "s"));
        try (LocalPage page = LocalPage.start(LineFiles.at(List.of(logs)), 0, folder, problem -> {
                    throw new AssertionError(problem);
                });
                Browser browser = Browser.open(1280, 800, false)) {
            browser.go(URI.create(page.address("") + "&zone=UTC"));
            browser.until("window.graphema.list.index?.isComplete && document.querySelectorAll('.event').length === 4");
            for (int i = 0; i < 4; i++) {
                browser.script("document.querySelectorAll('.event')[args[0]].click()", Integer.toString(i));
                browser.until("document.querySelectorAll('#detail .pair').length > 3");
            }
            browser.script(
                    "[...document.querySelectorAll('.event')].find(e => e.textContent.includes('wide')).click()");
            browser.click("#detail button", "more values");
            browser.until("document.querySelectorAll('#detail .pair').length > 2000");
            for (String view : List.of("failures", "messages", "values", "boards", "kept")) {
                browser.script("location.hash = '#zone=UTC&view=' + args[0]", view);
                browser.until("document.querySelector('#view')?.textContent.length > 0");
            }
            browser.script("location.hash = '#zone=UTC&by=service&q=' + encodeURIComponent('service exists')");
            browser.until("document.querySelector('#map text')");

            assertEquals("", browser.script("return window.wasRun"));
            assertEquals(
                    "0",
                    browser.script("return document.querySelectorAll('main img, main script, main b, main i').length"));
            assertFalse(browser.script("return document.body.innerText").contains("\u202E"));
            assertTrue(browser.script("return document.body.innerText.length").length() < 7);
            assertEquals("", browser.errors());
        }
    }

    private static String line(int second, String message, String fields, String service) {
        return "{\"time\":\"2026-05-15T06:00:0" + second + "Z\",\"level\":\"info\",\"service\":\"" + service
                + "\",\"logger\":\"a.B\",\"message\":\"" + message + "\",\"thread\":\"main\",\"sequence\":" + second
                + ",\"fields\":{"
                + fields + "},\"failure\":{\"type\":\"a.<b>Exception\",\"message\":\"" + SCRIPT
                + "\",\"frames\":[\"<i>frame</i>\"]}"
                + ",\"fingerprint\":\"0123456789abcdef\"}\n";
    }
}
