package dev.graphema.segments.store;

import static org.junit.jupiter.api.Assertions.assertEquals;

import java.nio.charset.StandardCharsets;
import java.util.Random;
import org.junit.jupiter.api.Test;

class EventIdsTest {
    @Test
    void anIdIsSeenWhereverItIs() {
        Random random = new Random(11);
        for (int round = 0; round < 20_000; round++) {
            StringBuilder text = new StringBuilder();
            while (text.length() < 40) {
                text.append(
                        random.nextInt(60) == 0 ? "\"id\":\"" : String.valueOf("\"id:x,".charAt(random.nextInt(6))));
            }
            byte[] bytes = text.toString().getBytes(StandardCharsets.US_ASCII);
            int from = random.nextInt(10);
            int to = bytes.length - random.nextInt(10);
            assertEquals(
                    text.substring(from, to).contains("\"id\":\""),
                    EventIds.mayBeIn(bytes, from, to),
                    () -> text + " from " + from + " to " + to);
        }
    }
}
