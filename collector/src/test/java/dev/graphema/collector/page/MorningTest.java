package dev.graphema.collector.page;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.collector.LocalPage;
import dev.graphema.lines.LineFiles;
import java.io.IOException;
import java.net.URI;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The morning of the ferry operator, in a browser: from "something rose" to the line of code. */
class MorningTest {
    private static final Path DAY = Path.of("../examples/day");
    private static final String QUESTION = "window.graphema.state().q";

    @TempDir
    Path folder;

    private LocalPage page;
    private Browser browser;
    private String address;

    @BeforeEach
    void open() throws IOException {
        Browser.assumeInstalled();
        page = LocalPage.start(LineFiles.at(List.of(DAY)), 0, folder, problem -> {
            throw new AssertionError(problem);
        });
        browser = Browser.open(1280, 800, false);
        address = page.address("").toString().replaceAll("/#.*", "/");
        browser.go(URI.create(page.address("") + "&zone=UTC"));
        isComplete();
    }

    @AfterEach
    void close() throws IOException {
        if (browser != null) {
            browser.close();
        }
        if (page != null) {
            page.close();
        }
    }

    /** Waits until the map and the list are complete. */
    private void isComplete() throws IOException {
        browser.until("window.graphema.map.map && window.graphema.list.index && window.graphema.list.index.isComplete");
    }

    private void go(String fragment) throws IOException {
        browser.script("location.hash = args[0]", "#zone=UTC&" + fragment);
    }

    @Test
    void withTheMouse() throws IOException {
        assertEquals("13800", browser.script("return window.graphema.list.index.total"));
        assertTrue(browser.script("return document.getElementById('summary').textContent")
                .contains("39,450 events"));
        assertTrue(browser.script("return document.getElementById('map').textContent")
                .contains("deck-2 2.4.1"));

        dragOverTheErrors();
        browser.click(".selection button", "narrow to");
        browser.until(QUESTION + ".startsWith('instance in (booking, deck-1, deck-2) --from 2026-05-15T06:1')");
        isComplete();

        browser.click("#views a", "Failures");
        browser.click("tr", "LaneTimeoutException");
        browser.script("[...document.querySelectorAll('tr')].find(e => e.textContent.includes('LaneTimeout'))"
                + ".querySelector('[aria-label^=only]').click()");
        browser.until(QUESTION + ".includes('failure.fingerprint = ')");

        browser.click("#views a", "Events");
        browser.click(".event", "LaneTimeoutException");
        browser.until("document.getElementById('detail').textContent.includes('seen 78 times, first')");
        assertTrue(browser.script("return document.getElementById('detail').textContent")
                .contains("skerry.deck.Lanes.take(Lanes.java:63)"));

        browser.click("#detail button", "its trail");
        browser.until("document.querySelectorAll('.operation').length === 6");
        assertTrue(browser.script("return document.querySelector('.trail').textContent")
                .contains("the first failure is in deck-2"));
        browser.script("history.back()");
        browser.until("window.graphema.state().view === 'events'");
        browser.script("document.querySelector('#detail [aria-label=\"only events with this release\"]').click()");
        browser.until(QUESTION + ".includes('release = 2.4.1')");
        assertEquals("", browser.errors());
    }

    @Test
    void aSelectionIsComparedWithTheTimeBefore() throws IOException {
        dragOverTheErrors();
        browser.click(".selection button", "the time before");

        browser.until(
                "document.querySelector('#view tbody')?.textContent.includes('failure.type = skerry.deck.LaneTimeoutException')");
        assertTrue(browser.script("return document.querySelector('#view').textContent")
                .contains("+ new"));
    }

    @Test
    void aLinkOpensTheSameView() throws IOException {
        go("q=" + "level%20%3E%3D%20error");
        browser.click(".event.error", "");
        browser.until("window.graphema.state().event !== ''");
        String link = browser.script("return location.href");
        browser.go(URI.create("about:blank"));

        browser.go(URI.create(link));
        browser.until("document.querySelector('#detail h2')?.textContent.includes('request')");
        assertEquals("level >= error", browser.script("return " + QUESTION));
        assertEquals(
                "level >= error",
                browser.script(
                        "return document.querySelector('.cm-content')?.textContent ?? document.getElementById('plain').value"));
    }

    @Test
    void withTheKeyboardAlone() throws IOException {
        browser.until("document.querySelector('.cm-content')");
        browser.keys("/");
        browser.until("document.activeElement.classList.contains('cm-content')");
        browser.keys("level >= warn", Browser.ENTER);
        browser.until(QUESTION + " === 'level >= warn'");
        browser.keys(Browser.ESCAPE);
        browser.until("!document.activeElement.classList.contains('cm-content')");
        isComplete();

        browser.keys("m");
        browser.until("document.activeElement.classList.contains('map')");
        browser.keys(Browser.RIGHT, Browser.DOWN);
        assertTrue(browser.script("return document.querySelector('.cell-text').textContent")
                .contains("deck-2:"));
        browser.keysWithShift(Browser.RIGHT, Browser.RIGHT);
        browser.keys(Browser.ENTER);
        browser.until(QUESTION + ".includes('instance = deck-2') && " + QUESTION + ".includes('--from')");
        browser.keys("u");
        browser.until(QUESTION + " === 'level >= warn'");
        isComplete();
        browser.until("document.querySelector('.event.error')");

        browser.keys("e", Browser.DOWN, Browser.ENTER);
        browser.until("!document.getElementById('detail').hidden");
        browser.keys("t");
        browser.until("document.querySelectorAll('.operation').length > 2");
        browser.keys("u");
        browser.until("window.graphema.state().view === 'events'");
        browser.keys("a");
        browser.until("document.querySelector('.middle')");
        browser.keys("2");
        browser.until("document.querySelector('#view tbody')?.textContent.includes('BankTimeoutException')");
        browser.keys("?");
        browser.until("document.querySelector('dialog')?.open");
        browser.keys(Browser.ESCAPE);
        browser.until("!document.querySelector('dialog')");
        assertEquals("", browser.errors());
    }

    @Test
    void anErrorIsMarkedAtItsColumn() throws IOException {
        go("q=" + "level%20%3E%3D%20eror");

        browser.until(
                "document.getElementById('question-error').textContent.startsWith('column 10: \"eror\" is not a valid level')");
        browser.until("document.querySelector('.wrong')?.textContent === 'eror'");
    }

    @Test
    void aDamagedLinkIsReported() throws IOException {
        go("event=damaged");

        browser.until("document.getElementById('announcements').textContent.includes('the link is damaged')");
        browser.until("window.graphema.list.index.isComplete");
    }

    @Test
    void anEmptyAnswerShowsWhichPartExcludesEverything() throws IOException {
        go("q=" + "level%20%3E%3D%20error%20and%20service%20%3D%20gate");

        browser.click("#summary button", "without service = gate: 356 events");
        browser.until(QUESTION + " === 'level >= error'");
    }

    @Test
    void aQuestionIsKeptAndABoardShowsIt() throws IOException {
        go("q=level%20%3E%3D%20error&view=kept");
        browser.until("document.querySelector('#view form')");
        browser.script(
                "const f = document.querySelector('#view form'); f.elements.name.value = 'errors'; f.requestSubmit()");
        browser.click("#view a", "errors");
        browser.until("window.graphema.state().view === 'events'");

        go("view=boards&board=Boarding");
        browser.until("document.querySelector('textarea')");
        browser.script(
                "const t = document.querySelector('textarea'); t.value = args[0]; t.form.requestSubmit()",
                "parts:\n"
                        + "  - {title: Errors, question: level >= error, show: count}\n"
                        + "  - {title: Kinds, question: level >= error, show: values, of: failure.type}\n");
        browser.until("document.querySelector('.board')?.textContent.includes('356')");
        browser.click(".part a", "Kinds");
        browser.until(QUESTION + " === 'level >= error' && window.graphema.state().view === 'values'");
    }

    /** Drags a rectangle over the rows of booking and deck while there are errors. */
    private void dragOverTheErrors() throws IOException {
        String[] at = browser.script("const b = document.querySelector('#map svg').getBoundingClientRect();"
                        + " const m = window.graphema.map; const x = time => b.left + m.places.left"
                        + " + m.places.step * (Date.parse(time) - Date.parse(m.map.begins[0])) / m.stepMillis;"
                        + " return [x('2026-05-15T06:12:30Z'), b.top + 55,"
                        + " x('2026-05-15T06:50:30Z'), b.top + 95].map(Math.round).join(' ')")
                .split(" ");
        browser.drag(
                Integer.parseInt(at[0]), Integer.parseInt(at[1]), Integer.parseInt(at[2]), Integer.parseInt(at[3]));
        browser.until("window.graphema.map.selected && !window.graphema.map.pressed");
    }
}
