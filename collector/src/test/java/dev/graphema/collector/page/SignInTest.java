package dev.graphema.collector.page;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;

import dev.graphema.collector.Collector;
import dev.graphema.collector.CollectorOptions;
import dev.graphema.collector.access.Role;
import dev.graphema.collector.access.Token;
import dev.graphema.collector.access.Tokens;
import dev.graphema.condition.Condition;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A user who signs in sees what the user may see, also behind a link of somebody else. */
class SignInTest {
    @TempDir
    Path folder;

    @Test
    void aLinkShowsWhatTheUserMaySee() throws Exception {
        Browser.assumeInstalled();
        CollectorOptions options = CollectorOptions.usual(folder, problem -> {
                    throw new AssertionError(problem);
                })
                .port(0);
        try (Collector collector = Collector.start(options);
                Browser browser = Browser.open(1280, 800, false)) {
            HttpClient.newHttpClient()
                    .send(
                            HttpRequest.newBuilder(collector.address().resolve("/lines"))
                                    .POST(HttpRequest.BodyPublishers.ofString(line("deck", 1) + line("bank", 2)))
                                    .build(),
                            HttpResponse.BodyHandlers.ofString());
            new Tokens(folder)
                    .createUser(
                            Token.of("liv", Role.READ)
                                    .seeing(Condition.parse("service = deck"))
                                    .hiding(List.of("pin"), List.of()),
                            "right password");
            browser.go(collector.address().resolve("/#zone=UTC&q=level+%3E%3D+info"));
            browser.until("document.querySelector('.sign-in')");
            assertEquals(
                    "Sign in to see events.",
                    browser.script("return document.getElementById('summary').textContent.trim()"));
            assertEquals("0", browser.script("return document.querySelectorAll('.event').length"));
            signIn(browser, "wrong password");
            browser.until(
                    "document.querySelector('.sign-in [role=alert]').textContent === 'the name or the password is wrong'");
            signIn(browser, "right password");

            browser.until("document.querySelectorAll('.event').length === 1 && window.graphema.map.map");
            browser.until("document.querySelector('.cm-content')?.textContent === 'level >= info'");
            assertFalse(browser.script("return document.body.textContent").contains("bank"));
            browser.click(".event", "refused");
            browser.until("document.querySelectorAll('#detail .pair').length > 5");
            assertFalse(browser.script("return document.body.textContent").contains("4711"));
        }
    }

    private static void signIn(Browser browser, String password) throws Exception {
        browser.script(
                "const f = document.querySelector('.sign-in'); f.elements.name.value = 'liv'; f.elements.password.value = args[0];"
                        + " f.requestSubmit()",
                password);
    }

    private static String line(String service, int number) {
        return "{\"time\":\"2026-05-15T06:00:0" + number + "Z\",\"level\":\"error\",\"service\":\"" + service
                + "\",\"logger\":\"a.B\",\"message\":\"refused\",\"thread\":\"main\",\"sequence\":" + number
                + ",\"fields\":{\"pin\":\"4711\"}}\n";
    }
}
