package dev.graphema.condition;

import static org.junit.jupiter.api.Assertions.assertEquals;

import dev.graphema.event.Draft;
import dev.graphema.event.Event;
import dev.graphema.event.Level;
import java.io.IOException;
import java.math.BigDecimal;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Consumer;
import org.junit.jupiter.api.Test;

/** The table of types in docs/conditions.md: its cells are exactly those below, and each is what conditions do. */
class ConditionsPageTest {
    private static final Path PAGE = Path.of("../docs/conditions.md");
    private static final List<String> LITERALS = List.of("number", "duration", "time", "text");
    private static final String NEVER = "–";

    private static final Event EVENT = new Draft()
            .level(Level.WARN)
            .fields(f -> f.put("n", 250)
                    .put("real", 2.5)
                    .put("fare", new BigDecimal("82.50"))
                    .put("wait_ms", 250)
                    .put("digits", "250")
                    .put("word", "coach")
                    .put("took", "250ms")
                    .put("lasted", "PT0.25S")
                    .put("seen", "2026-05-15T07:00:00+02:00")
                    .put("elapsed", Duration.ofMillis(250))
                    .put("departs", Instant.parse("2026-05-15T06:00:00Z"))
                    .put("paid", true)
                    .put("nothing", (String) null)
                    .put("list", List.of("coach", "250", "250ms", "2026-05-15T06:00:00Z"))
                    .put("free", List.of())
                    .group("deck", g -> g.put("plan", 3)))
            .finish();

    private final Map<String, Map<String, String>> table = new LinkedHashMap<>();

    @Test
    void everyCellIsWhatConditionsDo() throws IOException {
        number();
        text();
        row("duration", NEVER, "as durations", NEVER, NEVER);
        yes("elapsed = 250ms", "elapsed < 1s", "elapsed between 0.2s and 0.3s");
        no("elapsed = 250", "elapsed > 0", "elapsed = \"250ms\"", "elapsed > 2026-05-15", "elapsed starts 2");
        row("time", NEVER, NEVER, "as times", NEVER);
        yes("departs = 2026-05-15T06:00:00Z", "departs < 2026-05-16");
        no("departs > 0", "departs > 1s", "departs = \"2026-05-15T06:00:00Z\"", "departs starts 2026");
        row("boolean", NEVER, NEVER, NEVER, "`=` with `true` or `false`");
        yes("paid = true", "paid = \"TRUE\"", "paid != false");
        no("paid = 1", "paid = false", "paid >= true", "paid = yes");
        row("nothing (null)", NEVER, NEVER, NEVER, "`=` with the bare word `null`");
        yes("nothing = null", "nothing exists");
        no("nothing = \"null\"", "nothing = 0", "nothing < x");
        row("level", NEVER, NEVER, NEVER, "by severity");
        yes("level = warn", "level > info", "level between info and error");
        no("level > warn");
        list();
        yes("free exists", "free != A3", "not free missing");
        no("free = A3", "free = \"\"", "free missing");
        row("group", NEVER, NEVER, NEVER, NEVER);
        yes("deck exists", "deck != 3", "deck.plan = 3");
        no("deck = 3", "deck = \"\"", "deck < 9");

        assertEquals(Files.readString(PAGE).replaceAll("(?s).*(\\| stored \\|.*?)\n\n.*", "$1"), written());
    }

    private void number() {
        row(
                "number",
                "as numbers",
                "if the name ends in `_ns`, `_us`, `_ms` or `_s`: as durations; else –",
                NEVER,
                "`=` if the digits are the same; else –");
        yes("n = 250", "n >= 250.0", "real > 2", "fare = 82.5", "n between 1 and 250", "n in (1, 250)");
        no("n > 250", "real = 2", "fare < 82.5");
        yes("wait_ms = 0.25s", "wait_ms < 1s");
        no("n = 250ms", "n < 1s", "wait_ms > 250ms");
        no("n > 1970-01-01", "n < 2026-05-15");
        yes("n = \"250\"", "fare = \"82.50\"");
        no("fare = \"82.5\"", "n > \"1\"", "n starts 2", "n < coach");
    }

    private void text() {
        row(
                "text",
                "as numbers, if the text is a number; `=` also if the texts are equal",
                "as durations, if the text is a duration (`250ms` or ISO 8601 `PT0.25S`); `=` also if the texts are equal",
                "as times, if the text is a time; `=` also if the texts are equal",
                "as texts, by code unit, case-sensitive");
        yes("digits = 250", "digits > 249.5", "digits between 1 and 300");
        no("word > 0", "digits > 250");
        yes("took = 0.25s", "lasted = 250ms", "took = 250ms", "lasted < 1s");
        no("took > 250ms", "word > 0s");
        yes("seen = 2026-05-15T05:00:00Z", "seen < 2026-05-16", "seen = 2026-05-15T07:00:00+02:00");
        no("seen > 2026-05-16", "word > 2026-05-15");
        yes("word = coach", "word > car", "word < d", "word between a and d", "word starts co", "digits = \"250\"");
        no("word = Coach", "word > d", "digits > \"250\"");
    }

    private void list() {
        String any = "true for any item";
        row("list", any, any, any, any);
        yes("list = 250", "list = 0.25s", "list = 2026-05-15T06:00:00Z", "list = coach", "list starts co");
        no("list = 7", "list > 9h", "list > 2027-01-01", "list = lorry", "list between 251 and 252");
    }

    private void row(String stored, String... cells) {
        Map<String, String> row = new LinkedHashMap<>();
        for (int i = 0; i < LITERALS.size(); i++) {
            row.put(LITERALS.get(i), cells[i]);
        }
        table.put(stored, row);
    }

    private String written() {
        StringBuilder written = new StringBuilder("| stored | " + String.join(" | ", LITERALS) + " |\n");
        written.append("| --- ".repeat(LITERALS.size() + 1)).append('|');
        table.forEach((stored, row) -> written.append("\n| ")
                .append(stored)
                .append(" | ")
                .append(String.join(" | ", row.values()))
                .append(" |"));
        return written.toString();
    }

    private static void yes(String... conditions) {
        each(conditions, condition -> assertEquals(true, matches(condition), condition));
    }

    private static void no(String... conditions) {
        each(conditions, condition -> {
            assertEquals(false, matches(condition), condition);
            assertEquals(true, matches("not (" + condition + ")"), "two-valued: not " + condition);
        });
    }

    private static void each(String[] conditions, Consumer<String> check) {
        List.of(conditions).forEach(check);
    }

    private static boolean matches(String condition) {
        return Condition.parse(condition).matches(EVENT);
    }
}
