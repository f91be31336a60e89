package dev.graphema.format;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.event.Draft;
import dev.graphema.event.Failure;
import dev.graphema.event.Level;
import dev.graphema.text.Utf8Buffer;
import dev.graphema.trace.SpanId;
import dev.graphema.trace.TraceId;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;

class JsonMemberTest {
    private static final List<String> MEMBERS =
            Arrays.stream(JsonMember.values()).map(JsonMember::text).toList();

    @Test
    void thePageDocumentsAllMembersInTheirOrder() throws IOException {
        List<String> documented = new ArrayList<>();
        String page = Files.readString(Path.of("../docs/events.md"));
        String table = page.substring(page.indexOf("| name | value |"), page.indexOf("Values of fields:"));
        for (String row : table.lines().skip(2).toList()) {
            Matcher name =
                    Pattern.compile("`(\\w+)`").matcher(row.isEmpty() ? "" : row.substring(0, row.indexOf('|', 1)));
            while (name.find()) {
                documented.add(name.group(1));
            }
        }
        assertEquals(MEMBERS, documented);
        assertTrue(page.contains("version " + JsonMember.VERSION));
    }

    @Test
    void anEventIsWrittenWithItsMembersInTheirOrder() {
        Draft draft = new Draft()
                .time(0)
                .level(Level.INFO)
                .service("s")
                .instance("i")
                .logger("l")
                .message("m")
                .trace(new TraceId(1, 2), new SpanId(3), new SpanId(4))
                .thread("t")
                .sequence(5)
                .run("0123456789abcdef")
                .repeat(true)
                .held(true)
                .weight(2)
                .fields(f -> f.put("n", 1))
                .failure(Failure.of(new IllegalStateException("x")));
        Utf8Buffer line = new Utf8Buffer(1024);
        new JsonLines(true).write(draft.finish(), line);
        int at = -1;
        for (String member : MEMBERS) {
            int next = line.toString().indexOf("\"" + member + "\":");
            assertTrue(next > at, member + " in " + line);
            at = next;
        }
    }
}
