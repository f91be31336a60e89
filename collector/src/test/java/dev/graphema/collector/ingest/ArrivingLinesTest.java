package dev.graphema.collector.ingest;

import static org.junit.jupiter.api.Assertions.assertArrayEquals;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.collector.input.TopicRecord;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Records of topics on their way into the store. */
class ArrivingLinesTest {
    private static final Pattern ID = Pattern.compile("\"id\":\"([0-9a-f]{16}-[0-9]+)\"");
    private static final Origin ORIGIN = new Origin("skerry", null);
    private static final String OWN =
            "{\"time\":\"2026-05-15T06:31:02.000000001Z\",\"level\":\"info\",\"message\":\"hold placed\"%s}";

    private static TopicRecord record(String value, long number) {
        return new TopicRecord(value.getBytes(StandardCharsets.UTF_8), number);
    }

    private static String stored(boolean isStamping, TopicRecord... records) {
        return new String(
                new ArrivingLines(null, isStamping).storedOfRecords(List.of(records), ORIGIN), StandardCharsets.UTF_8);
    }

    private static List<String> ids(String lines) {
        List<String> ids = new ArrayList<>();
        for (Matcher matcher = ID.matcher(lines); matcher.find(); ) {
            ids.add(matcher.group(1));
        }
        return ids;
    }

    @ParameterizedTest
    @ValueSource(booleans = {true, false})
    void anEventWithoutAnIdGetsTheSameOneWheneverItsRecordIsRead(boolean isStamping) {
        TopicRecord[] records = {
            record(OWN.formatted(""), 1),
            record(OWN.formatted(""), 2),
            record("{\"msg\":\"one\"}\n{\"msg\":\"two\"}\n", 3),
            record("{\"msg\":\"one\"}", 4)
        };
        List<String> first = ids(stored(isStamping, records));
        assertEquals(5, first.size());
        assertEquals(5, new HashSet<>(first).size());
        assertEquals(first, ids(stored(isStamping, records)));
        assertEquals(first.subList(1, 2), ids(stored(isStamping, records[1])));
    }

    @Test
    void anIdOfTheSenderRemains() {
        String own = OWN.formatted(",\"id\":\"00000000000000a1-7\"");
        assertArrayEquals(
                (own + "\n").getBytes(StandardCharsets.UTF_8),
                stored(false, record(own, 1)).getBytes(StandardCharsets.UTF_8));
        String stamped = stored(true, record(own, 1));
        assertEquals(List.of("00000000000000a1-7"), ids(stamped));
        assertTrue(stamped.contains("\"collector\":{\"source\":\"skerry\""), stamped);
        String behindABrace = own.replace("hold placed", "hold { placed");
        assertEquals(List.of("00000000000000a1-7"), ids(stored(true, record(behindABrace, 1))));
    }

    @Test
    void aDamagedRecordIsKept() {
        TopicRecord cutOff = record("{\"time\":\"2026-", 1);
        String kept = stored(true, cutOff);
        assertTrue(kept.contains("\"line.damage\":\"the line is cut off\""), kept);
        assertEquals(1, ids(kept).size());
        assertEquals(ids(kept), ids(stored(true, cutOff)));
        assertEquals("", stored(true, record("", 1)));
    }
}
