package dev.graphema.cli.output;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.cli.CommandFixture;
import dev.graphema.collector.page.Browser;
import dev.graphema.collector.page.Drawings;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;

/** The HTML report: as text, and in a browser. */
class ReportTest extends CommandFixture {
    /** Writes a report on the fixture's events and one whose texts try to become markup. */
    private Path report() throws IOException {
        Files.writeString(
                logs.resolve("hostile.jsonl"),
                "{\"time\":\"2026-05-15T06:00:00Z\",\"level\":\"error\",\"service\":\"</script><script>alert(1)</script>\",\"message\":\"\\\"><img src=x onerror=alert(1)>\\u0000\\u202e\","
                        + "\"fields\":{\"</style>\":\"&lt;\"},\"failure\":{\"type\":\"<b>\",\"message\":\"</pre>\"}}\n");
        Path file = folder.resolve("report.html");
        assertEquals(0, run("find", "level >= info", "--report", file.toString(), "--in", logs.toString()));
        assertTrue(error.contains("the report is in " + file), error);
        return file;
    }

    @Test
    void hostileTextIsHarmless() throws IOException {
        String page = Files.readString(report());
        String own = "<script type=\"module\">" + Drawings.script();
        assertEquals(1, page.split(Pattern.quote(own), -1).length - 1, "the drawing code of the page");
        for (String script : page.split("<script", -1)) {
            assertTrue(
                    script.startsWith("<!doctype")
                            || script.startsWith(" type=\"application/json\" data-drawing=")
                            || own.startsWith("<script" + script.substring(0, 30)),
                    script);
        }
        assertFalse(page.contains("<img"), page);
        assertEquals(1, page.split("</style>", -1).length - 1);
        assertTrue(page.contains("&lt;script&gt;alert(1)"), page);
        assertTrue(page.contains("Content-Security-Policy"));
        assertFalse(page.replace("http://www.w3.org/2000/svg", "").matches("(?s).*https?://.*"), "no network");
        assertTrue(page.chars().noneMatch(c -> c < ' ' && c != '\n' && c != '\t'), page);
        for (String heading :
                new String[] {"When and where", "What it is made of", "Failures", "One request", "The newest events"}) {
            assertTrue(page.contains("<h2>" + heading + "</h2>"), heading);
        }
    }

    @Test
    void theBrowserDrawsTheMapTheCoursesAndTheTrail() throws IOException {
        Browser.assumeInstalled();
        Path file = report();
        try (Browser browser = Browser.open(1280, 800, false)) {
            browser.go(file.toUri());
            browser.until("document.querySelectorAll('svg').length >= 3");
            assertEquals("", browser.errors());
            assertEquals("0", browser.script("return document.querySelectorAll('.as-text').length"), "texts instead");
            for (String drawn :
                    new String[] {"path.shade4", "path.bar.error", "text.label", "rect.span", "path.shade2"}) {
                browser.until("document.querySelector('svg " + drawn + "')");
            }
            String labels = browser.script(
                    "return [...document.querySelectorAll('svg text.label')].map(e => e.textContent).join()");
            assertTrue(labels.contains("</script><script>alert(1)</script>"), labels);
        }
    }
}
