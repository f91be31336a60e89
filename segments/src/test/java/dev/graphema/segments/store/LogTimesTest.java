package dev.graphema.segments.store;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertNotNull;
import static org.junit.jupiter.api.Assertions.assertNull;

import dev.graphema.query.Question;
import dev.graphema.query.Window;
import dev.graphema.query.answer.FoundEvents;
import dev.graphema.query.source.QueryExecutor;
import dev.graphema.segments.log.LogTimes;
import dev.graphema.text.Times;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Questions about a window, over a log of which only a part is read. */
class LogTimesTest {
    private static final long START = Times.epochNanos(Instant.parse("2026-05-15T06:00:00Z"));
    private static final int BATCHES = 40;
    private static final int LINES = 500;

    @TempDir
    Path folder;

    @ParameterizedTest
    @ValueSource(
            strings = {
                "",
                "2026-05-15 06:00:01 ERROR barrier is stuck",
                "{\"time\":\"2026-05-15T06:00:01.000000000Z\",\"level\":\"info\",\"message\":\"m\",\"time\":\"2026-05-15T06:01:01.000000000Z\"}",
                "{\"time\":\"2026-05-15T06:00:01.000000000Z\",\"level\":\"info\",\"message\":\"m\",\"\\u0074ime\":\"2026-05-15T06:01:01.000000000Z\"}",
                "{\"time\":\"2026-05-15T06:00:01.000000000Z\",\"level\":\"info\",\"mess"
            })
    void theSameEventsAreFound(String otherLine) throws IOException {
        Random random = new Random(5);
        List<Long> times = new ArrayList<>();
        try (Store store = Store.open(folder, StoreOptions.usual(problem -> {}))) {
            StoreSource source = StoreSource.at(folder);
            StoreSource[] fresh = new StoreSource[1];
            for (int batch = 0; batch < BATCHES; batch++) {
                StringBuilder lines = new StringBuilder();
                for (int i = 0; i < LINES; i++) {
                    boolean isLate = random.nextInt(200) == 0;
                    long time = START + (batch * LINES + i) * 10_000_000L - (isLate ? 60_000_000_000L : 0);
                    times.add(time);
                    lines.append(line(time));
                }
                store.append((lines + (batch == BATCHES / 2 ? otherLine + "\n" : "")).getBytes(StandardCharsets.UTF_8));
                long from = START + random.nextInt(250) * 1_000_000_000L;
                Window window = new Window(from, from + random.nextInt(20) * 1_000_000_000L);
                fresh[0] = StoreSource.at(folder); // reads everything
                FoundEvents expected = found(window, fresh[0]);
                FoundEvents actual = found(window, source);
                assertEquals(expected.matching(), actual.matching());
                assertEquals(
                        expected.events().stream().map(Object::toString).toList(),
                        actual.events().stream().map(Object::toString).toList());
            }
        }
    }

    private static FoundEvents found(Window window, StoreSource source) throws IOException {
        return QueryExecutor.answer(Question.all().during(window).newest(20), source);
    }

    @Test
    void onlyAPartIsRead() throws IOException {
        try (Store store = Store.open(folder, StoreOptions.usual(problem -> {}))) {
            for (int batch = 0; batch < BATCHES; batch++) {
                StringBuilder lines = new StringBuilder();
                for (int i = 0; i < LINES; i++) {
                    lines.append(line(START + (batch * LINES + i) * 10_000_000L));
                }
                store.append(lines.toString().getBytes(StandardCharsets.UTF_8));
            }
            LogTimes times = new LogTimes();
            Path log = folder.resolve("0000000001.glog");

            LogTimes.Stretch last = times.stretch(1, log, new Window(START + 199_000_000_000L, Long.MAX_VALUE));
            assertNotNull(last);
            assertEquals(true, last.from() > 1_000_000, last.toString());
            assertNull(times.stretch(1, log, new Window(START + 300_000_000_000L, Long.MAX_VALUE)));
            LogTimes.Stretch all = times.stretch(1, log, new Window(START, START + 300_000_000_000L));
            assertEquals(0, all.bytesBefore());
        }
    }

    private static String line(long time) {
        return "{\"time\":\"%s\",\"level\":\"info\",\"service\":\"deck\",\"message\":\"reserve lanes for a coach\",\"fields\":{\"lane\":\"A3\"}}\n"
                .formatted(
                        Times.instant(time).toString().length() == 20
                                ? Times.instant(time).toString().replace("Z", ".000000000Z")
                                : Times.instant(time).toString().replace("Z", "000000Z"));
    }
}
