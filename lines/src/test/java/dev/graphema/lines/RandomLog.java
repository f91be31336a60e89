package dev.graphema.lines;

import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;

/** Random lines that begin as Graphema JSON does, some of them unusual or damaged, and lines of other kinds. */
public final class RandomLog {
    private static final Instant START = Instant.parse("2026-05-15T05:00:00Z");
    private static final String[] MEMBERS = {
        ",\"service\":\"deck\"",
        ",\"service\":\"booking\",\"instance\":\"booking-1\"",
        ",\"logger\":\"skerry.deck.Lanes\"",
        ",\"message\":\"lane \\\"A3\\\" not free\\n\"",
        ",\"message\":\"Tromsø\"",
        ",\"message\":\"0123456789abcdef\"",
        ",\"message\":7",
        ",\"trace\":\"4bf92f3577b34da6a3ce929d0e0e4736\",\"span\":\"00f067aa0ba902b7\"",
        ",\"trace\":\"00000000000000000000000000000000\"",
        ",\"thread\":\"deck-3\"",
        ",\"sequence\":812",
        ",\"sequence\":812,\"id\":\"8000000000000001-812\"",
        ",\"repeat\":true",
        ",\"held\":true",
        ",\"weight\":20",
        ",\"weight\":0"
    };
    private static final String FAILURE =
            ",\"fingerprint\":\"ee0caf7304a44c61\",\"failure\":{\"type\":\"skerry.LaneException\",\"message\":\"no lane\",\"frames\":[\"skerry.deck.Lanes.take(Lanes.java:63)\"]}";

    private RandomLog() {}

    /** Returns the same lines for the same seed. */
    public static List<String> lines(long seed, int count) {
        Random random = new Random(seed);
        List<String> lines = new ArrayList<>();
        for (int i = 0; i < count; i++) {
            lines.add(line(random, i));
        }
        return lines;
    }

    private static String line(Random random, int number) {
        if (random.nextInt(40) == 0) {
            return "{\"ts\":\"%s\",\"level\":\"warn\",\"lane\":\"A3\"}".formatted(START.plusSeconds(number));
        }
        StringBuilder line = new StringBuilder("{\"time\":\"%s.%09dZ\",\"level\":\"%s\""
                .formatted(
                        START.plusSeconds(number).toString().replace("Z", ""),
                        random.nextInt(1_000_000_000),
                        List.of("info", "warn", "error", "debug", "loud")
                                .get(random.nextInt(20) == 0 ? 4 : random.nextInt(4))));
        // The members of an event have an order, which is part of the form.
        random.ints(random.nextInt(5), 0, MEMBERS.length).sorted().forEach(member -> line.append(MEMBERS[member]));
        if (random.nextInt(3) > 0) {
            line.append(",\"fields\":").append(RandomJson.line(random));
        }
        line.append(random.nextInt(6) == 0 ? FAILURE : "").append('}');
        return random.nextInt(30) == 0 ? line.substring(0, line.length() - random.nextInt(20)) : line.toString();
    }
}
