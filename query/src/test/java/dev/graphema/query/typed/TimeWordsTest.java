package dev.graphema.query.typed;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertNull;

import dev.graphema.query.Window;
import dev.graphema.text.Times;
import java.time.Instant;
import java.time.ZoneId;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class TimeWordsTest {
    /** A Wednesday. */
    private static final Instant NOW = Instant.parse("2026-05-20T10:30:00Z");

    private final TimeWords words = new TimeWords(ZoneId.of("Europe/Berlin"), NOW);

    @ParameterizedTest
    @CsvSource({
        "now,2026-05-20T10:30:00Z",
        "2026-05-15T07:10,2026-05-15T05:10:00Z",
        "2026-05-15T07:10:30Z,2026-05-15T07:10:30Z",
        "2026-05-15,2026-05-14T22:00:00Z",
        "07:10,2026-05-20T05:10:00Z",
        "7:10,2026-05-20T05:10:00Z",
        "today,2026-05-19T22:00:00Z",
        "yesterday,2026-05-18T22:00:00Z",
        "yesterday 09:00,2026-05-19T07:00:00Z",
        "Wednesday,2026-05-19T22:00:00Z",
        "thursday 9:30,2026-05-14T07:30:00Z",
        "fri,2026-05-14T22:00:00Z",
        "2026-05-15 07:10,2026-05-15T05:10:00Z",
        "2h ago,2026-05-20T08:30:00Z",
        "90s ago,2026-05-20T10:28:30Z"
    })
    void momentsAreUnderstoodAsPeopleWriteThem(String text, String moment) {
        assertEquals(Times.epochNanos(Instant.parse(moment)), words.moment(text));
    }

    @ParameterizedTest
    @ValueSource(
            strings = {"", "noon", "25:00", "friday soon", "2 h", "ago", "fr", "2026-02-30", "yesterday 09:00 sharp"})
    void whatIsNoMomentIsNone(String text) {
        assertNull(words.moment(text));
    }

    @ParameterizedTest
    @CsvSource({
        "2026-05-15T07:10/2026-05-15T07:50,2026-05-15T05:10:00Z,2026-05-15T05:50:00Z",
        "2026-05-15T07:10/PT40M,2026-05-15T05:10:00Z,2026-05-15T05:50:00Z",
        "PT40M/2026-05-15T07:50,2026-05-15T05:10:00Z,2026-05-15T05:50:00Z",
        "2026-05-15/P1D,2026-05-14T22:00:00Z,2026-05-15T22:00:00Z",
        "2026-03-28T12:00/P1DT1H,2026-03-28T11:00:00Z,2026-03-29T11:00:00Z",
        "yesterday/today,2026-05-18T22:00:00Z,2026-05-19T22:00:00Z"
    })
    void intervalsAreThoseOfIso8601(String text, String from, String to) {
        assertEquals(Window.between(Instant.parse(from), Instant.parse(to)), words.interval(text));
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "",
                "/",
                "2026-05-15",
                "2026-05-15/",
                "2026-05-15/2026-05-14",
                "PT1H/PT1H",
                "2026-05-15/1H",
                "a/b/c"
            })
    void whatIsNoIntervalIsNone(String text) {
        assertNull(words.interval(text));
    }
}
