package dev.graphema.collector.page;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.collector.LocalPage;
import dev.graphema.lines.LineFiles;
import java.io.IOException;
import java.io.InputStream;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** The rules of WCAG 2.2, levels A and AA, as far as a program can check them, in each view. */
class AccessibilityTest {
    private static final String RULES = "['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa']";
    private static final String FAILED = "q=level%20%3E%3D%20error";

    @TempDir
    Path folder;

    @ParameterizedTest
    @CsvSource({"1280, 800, false", "1280, 800, true", "380, 800, false", "640, 400, false"})
    void eachViewFollowsThem(int width, int height, boolean isDark) throws IOException {
        Browser.assumeInstalled();
        try (LocalPage page = LocalPage.start(LineFiles.at(List.of(Path.of("../examples/day"))), 0, folder, problem -> {
                    throw new AssertionError(problem);
                });
                Browser browser = Browser.open(width, height, isDark)) {
            browser.go(URI.create(page.address("") + "&zone=UTC"));
            browser.until("window.graphema.list.index?.isComplete && document.querySelector('.cm-content')");
            check(browser, "events");
            browser.script("[...document.querySelectorAll('.map-tools button')][0].click()");
            check(browser, "table");
            browser.script("[...document.querySelectorAll('.map-tools button')][0].click()");
            go(browser, FAILED);
            browser.click(".event.error", "");
            browser.until("document.getElementById('detail').textContent.includes('seen')");
            check(browser, "detail");
            browser.click("#detail button", "its trail");
            browser.until("document.querySelector('.operation')");
            check(browser, "trail");
            for (String view : List.of("failures", "messages", "values", "kept", "boards")) {
                go(browser, FAILED + "&view=" + view);
                browser.until("window.graphema.state().view === '" + view
                        + "' && document.querySelector('#view')?.textContent.trim()");
                check(browser, view);
            }
            browser.script("document.querySelector('[title=\"help (?)\"]').click()");
            check(browser, "help");
            assertTrue(
                    Integer.parseInt(browser.script("return document.documentElement.scrollWidth")) <= width,
                    "the page is wider than the window");
        }
    }

    private static void go(Browser browser, String fragment) throws IOException {
        browser.script("location.hash = args[0]", "#zone=UTC&" + fragment);
    }

    private static void check(Browser browser, String view) throws IOException {
        try (InputStream axe =
                AccessibilityTest.class.getResourceAsStream("/META-INF/resources/webjars/axe-core/4.6.3/axe.min.js")) {
            browser.script(new String(axe.readAllBytes(), StandardCharsets.UTF_8) + ";window.axe = axe;");
        }
        browser.script("window.found = null; axe.run(document, {runOnly: " + RULES
                + "}).then(r => window.found = r.passes.length < 10 ? 'few rules apply' : r.violations.map(v => v.id"
                + " + ': ' + v.help + ' ' + v.nodes.slice(0, 3).map(n => n.html + ' ' + n.any.map(a => a.message)).join(' | ')).join('; '))"
                + ".catch(e => window.found = e.message)");
        browser.until("window.found !== null");
        assertEquals("", browser.script("return window.found"), view);
    }
}
