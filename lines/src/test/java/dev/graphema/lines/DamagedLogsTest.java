package dev.graphema.lines;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.event.Event;
import dev.graphema.query.answer.Coverage;
import dev.graphema.query.contract.Samples;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Random;
import java.util.zip.GZIPOutputStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Damaged logs of all forms: no line is dropped, and nothing in it that the damage has left. */
class DamagedLogsTest {
    private static final int FILES = Integer.getInteger("files", 150);
    private static final long SEED = Long.getLong("seed", 20);

    private static final String[] FORMS = {
        "{\"time\":\"2026-11-23T05:01:%1$02d.%2$09dZ\",\"level\":\"%3$s\",\"message\":\"%4$s\",\"fields\":{\"lane\":\"A3\",\"n\":%2$d}}",
        "{\"ts\":1795442%2$03d.5,\"lane\":\"A3\",\"msg\":\"%4$s\",\"sev\":\"%3$s\",\"in\":{\"n\":%2$d,\"x\":[1,\"b\"]}}",
        "ts=2026-11-23T05:01:%1$02dZ level=%3$s msg=\"%4$s\" lane=A3 n=%2$d",
        "<14>1 2026-11-23T05:01:%1$02dZ gate-1 deck 812 LANE [lane@32473 name=\"A3\" n=\"%2$d\"] %4$s",
        "10.0.0.7 - - [23/Nov/2026:05:01:%1$02d +0000] \"GET /%4$s HTTP/1.1\" 200 %2$d \"-\" \"curl/8.5.0\"",
        "2026-11-23 05:01:%1$02d.%2$03d INFO [main] gate - %4$s lane=A3"
    };

    /** Text continues the line before if its time is damaged, so it is not an event of its own. */
    private static final int TEXT = FORMS.length - 1;

    @TempDir
    Path folder;

    @Test
    void whatIsFoundAndWhatIsReportedIsWhatWasWritten() throws IOException {
        long lines = 0;
        long damaged = 0;
        for (int i = 0; i < FILES; i++) {
            long seed = SEED * 1_000_003 + i;
            DamagedLog log = new DamagedLog(new Random(seed));
            Path file = folder.resolve("log-" + i + ".log" + (log.isCompressed ? ".gz" : ""));
            log.write(file);
            check(log, file, "seed " + seed);
            lines += log.lines.size();
            damaged += log.damaged;
            Files.delete(file);
        }
        System.out.println(FILES + " files with " + lines + " lines, " + damaged + " of them damaged, seed " + SEED);
    }

    private static void check(DamagedLog log, Path file, String seed) throws IOException {
        StringBuilder found = new StringBuilder();
        List<Event> events = new ArrayList<>();
        Coverage coverage = Asked.at(file).read(event -> {
            events.add(event);
            found.append(Samples.text(event));
            return true;
        });
        for (String mark : log.marks) {
            assertTrue(
                    found.indexOf(mark) >= 0,
                    () -> seed + ": " + mark + " is lost of\n" + String.join("\n", log.lines));
        }
        if (!log.hasText) {
            assertEquals(log.lines.size(), events.size() + coverage.unreadableCount(), seed);
        }
        assertEquals(events.size(), coverage.events(), seed);
        Coverage selective =
                Asked.at(file).where("message = nothing and level = fatal").read(event -> true);
        assertEquals(coverage.events(), selective.events(), seed);
        if (!log.hasOwn) {
            assertEquals(counts(coverage.damaged()), counts(selective.damaged()), seed);
        }
    }

    private static List<String> counts(List<Coverage.Problem> problems) {
        return problems.stream().map(each -> each.count() + " " + each.reason()).toList();
    }

    /** A log with random lines, some of which are damaged. */
    private static final class DamagedLog {
        private final List<String> lines = new ArrayList<>();
        private final List<String> marks = new ArrayList<>();
        private final boolean isCompressed;
        private boolean hasText;
        private boolean hasOwn;
        private int damaged;

        DamagedLog(Random random) {
            isCompressed = random.nextInt(4) == 0;
            int forms = random.nextInt(3) == 0 ? 2 : 1;
            int[] chosen = random.ints(forms, 0, FORMS.length).toArray();
            for (int i = 1 + random.nextInt(40); i > 0; i--) {
                int form = chosen[random.nextInt(forms)];
                hasText |= form == TEXT;
                hasOwn |= form == 0;
                String mark = "m" + i + "q" + random.nextInt(1_000_000) + "z";
                String level = random.nextBoolean() ? "info" : "error";
                String line = FORMS[form].formatted(random.nextInt(60), random.nextInt(1_000), level, mark);
                if (random.nextInt(3) == 0) {
                    String hurt = hurt(line, random);
                    line = isNoLine(hurt) ? line : hurt;
                    damaged++;
                }
                lines.add(line);
                if (line.contains(mark)) {
                    marks.add(mark);
                }
            }
        }

        /** An empty line is no event, and an indented one continues another. */
        private static boolean isNoLine(String line) {
            return line.isBlank()
                    || line.charAt(0) <= ' '
                    || line.matches("(?s)(at |\\.\\.\\. ).*")
                    || line.indexOf('\r') >= 0;
        }

        private static String hurt(String line, Random random) {
            int at = random.nextInt(line.length());
            String hurt = switch (random.nextInt(7)) {
                case 0 -> line.substring(0, at + 1);
                case 1 -> line.substring(0, at) + line.substring(at + 1);
                case 2 -> line.substring(0, at) + (char) random.nextInt(256) + line.substring(at + 1);
                case 3 -> line.substring(0, at) + "\u0000\u00FF" + line.substring(at);
                case 4 -> line.replaceFirst("\"(\\w+)\":\"", "$1:\"");
                case 5 -> line.replaceFirst("\"(lane|ts)\":[^,]*", "\"$1\":");
                default -> line.substring(0, at) + line.substring(Math.min(line.length(), at + random.nextInt(9)));
            };
            return hurt.replace("\n", "");
        }

        void write(Path file) throws IOException {
            ByteArrayOutputStream bytes = new ByteArrayOutputStream();
            OutputStream to = isCompressed ? new GZIPOutputStream(bytes) : bytes;
            for (String line : lines) {
                to.write(line.getBytes(StandardCharsets.ISO_8859_1));
                to.write('\n');
            }
            to.close();
            Files.write(file, bytes.toByteArray());
        }
    }

    /** Compressed logs that are cut off, too: what was decompressed is found, and the cut is reported. */
    @Test
    void ofACutOffCompressedLogTheBeginningIsFound() throws IOException {
        Random random = new Random(SEED);
        for (int i = 0; i < FILES / 10; i++) {
            ByteArrayOutputStream bytes = new ByteArrayOutputStream();
            try (OutputStream gzip = new GZIPOutputStream(bytes)) {
                for (int k = 0; k < 2_000; k++) {
                    String line = FORMS[2].formatted(k % 60, k % 1000, "info", "m" + random.nextLong()) + "\n";
                    gzip.write(line.getBytes(StandardCharsets.UTF_8));
                }
            }
            int size = 1 + random.nextInt(bytes.size() - 1);
            Path file = folder.resolve("cut.log.gz");
            Files.write(file, Arrays.copyOf(bytes.toByteArray(), size));
            Coverage coverage = Asked.at(file).read(event -> true);

            assertEquals(1, coverage.unreadableCount() + coverage.failures().size(), coverage.toString());
            assertTrue(size < 2_000 || coverage.events() > 0, size + " bytes");
        }
    }
}
