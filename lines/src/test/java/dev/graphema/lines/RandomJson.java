package dev.graphema.lines;

import java.util.ArrayList;
import java.util.List;
import java.util.Random;

/** Random lines in JSON of other programs, some of them damaged, and names that questions about them contain. */
public final class RandomJson {
    private static final List<String> KEYS = List.of(
            "ts",
            "severity",
            "msg",
            "lane",
            "http",
            "status",
            "error",
            "type",
            "stack",
            "trace_id",
            "spanId",
            "service",
            "host",
            "weight",
            "sequence",
            "fields",
            "failure",
            "http.code",
            "code",
            "traceparent",
            "caller",
            "held",
            "text",
            "id");
    private static final List<String> ASKED = List.of(
            "level",
            "message",
            "service",
            "instance",
            "logger",
            "thread",
            "trace",
            "span",
            "failure.type",
            "failure.message",
            "failure.fingerprint",
            "weight",
            "sequence",
            "held",
            "lane",
            "http",
            "http.code",
            "http.status.lane",
            "error",
            "error.type",
            "msg",
            "severity",
            "status",
            "lane.text",
            "fields.type",
            "text");
    private static final String[] SCALARS = {
        "\"warn\"",
        "\"B2\"",
        "12",
        "-0.50",
        "true",
        "false",
        "null",
        "\"2026-11-23T05:01:02Z\"",
        "1795442400.25",
        "\"\"",
        "\"4bf92f3577b34da6a3ce929d0e0e4736\"",
        "\"00f067aa0ba902b7\"",
        "\"PT2S\"",
        "\"caf\u00e9 \\u0041\\n\"",
        "17",
        "\"00-4bf92f3577b34da6a3ce929d0e0e4736-00f067aa0ba902b7-01\"",
        "12345678901234567890123",
        "\"lane closed\""
    };

    private RandomJson() {}

    /** Returns one to seven names of attributes and fields. */
    public static List<String> names(Random random) {
        return some(random, ASKED);
    }

    /** Returns a line. */
    public static String line(Random random) {
        StringBuilder line = new StringBuilder();
        object(random, 0, line);
        if (random.nextInt(10) == 0) {
            line.insert(random.nextInt(line.length() - 1) + 1, "},:\"x[".charAt(random.nextInt(6)));
        }
        return line.toString();
    }

    private static void object(Random random, int depth, StringBuilder to) {
        to.append('{');
        String before = "";
        for (String key : some(random, KEYS)) {
            to.append(before).append('"').append(key).append("\":");
            value(random, depth, to);
            before = random.nextInt(20) == 0 ? " , " : ",";
        }
        to.append('}');
    }

    private static void value(Random random, int depth, StringBuilder to) {
        int kind = random.nextInt(8);
        if (kind == 0 && depth < 4) {
            object(random, depth + 1, to);
        } else if (kind == 1 && depth < 4) {
            to.append('[');
            value(random, depth + 1, to);
            to.append(random.nextBoolean() ? ",2]" : "]");
        } else {
            to.append(SCALARS[random.nextInt(SCALARS.length)]);
        }
    }

    /** Returns up to seven of these, in any order; one is rarely there twice. */
    private static List<String> some(Random random, List<String> of) {
        List<String> some = new ArrayList<>();
        for (int i = random.nextInt(7) + 1; i > 0; i--) {
            String next = of.get(random.nextInt(of.size()));
            if (!some.contains(next) || random.nextInt(10) == 0) {
                some.add(next);
            }
        }
        return some;
    }
}
