package dev.graphema.lines;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import com.github.luben.zstd.ZstdOutputStream;
import dev.graphema.condition.Condition;
import dev.graphema.condition.Name;
import dev.graphema.event.Event;
import dev.graphema.query.Ask;
import dev.graphema.query.Window;
import dev.graphema.query.answer.Coverage;
import dev.graphema.query.contract.Samples;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.nio.channels.FileChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.time.Duration;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Random;
import java.util.zip.GZIPOutputStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Files that were made to do harm, or were harmed: never a failure, and what can be read is read. */
class HostileInputTest {
    private static final String GOOD = "{\"time\":\"2026-05-15T06:00:00Z\",\"level\":\"info\",\"message\":\"good\"}\n";

    @TempDir
    Path folder;

    @Test
    void whatIsNoEventIsCountedAndTheRestIsRead() throws IOException {
        ByteArrayOutputStream file = new ByteArrayOutputStream();
        file.write(new byte[] {(byte) 0xEF, (byte) 0xBB, (byte) 0xBF});
        write(file, GOOD.replace("\n", "\r\n"));
        write(file, "{\"time\":\"2026-05-15T06:00:00Z\",\"deep\":" + "[".repeat(10_000) + "]".repeat(10_000) + "}\n");
        write(file, "{\"time\":\"2026-05-15T06:00:00Z\",\"long\":\"" + "x".repeat(10 << 20) + "\"}\n");
        write(file, "{\"time\":\"2026-05-15T06:00:00Z\",\"time\":\"2026-05-15T07:00:00Z\",\"a\":1,\"a\":2}\n");
        write(file, "{\"time\":\"2026-05-15T06:00:00Z\",\"n\":1e99999,\"m\":" + "9".repeat(900) + "}\n");
        write(file, "{\"time\":\"2026-05-15T06:00:00Z\",\"message\":\"\u0000\u001b[2J\\u0000\"}\n");
        file.write("{\"time\":\"2026-05-15T06:00:00Z\",\"message\":\"".getBytes(StandardCharsets.UTF_8));
        file.write(new byte[] {(byte) 0xC3, (byte) 0x28, (byte) 0xFF});
        write(file, "\"}\n");
        write(file, "\u0000\u0000\u0000\n\n   \n");
        write(file, "{\"time\":1e999999999}\n{\"time\":-1}\n{\"time\":\"0000-00-00\"}\n{}\n[]\nnull\n");
        write(file, "time=2026-05-15T06:00:00Z level=info msg=\"never closed a=b\n");
        write(file, "<999>1 - - - - - -\n<1\n<14>1 2026-05-15T06:00:00Z a b c d [x@1 y=\"z\n");
        write(file, GOOD);
        write(file, "{\"time\":\"2026-05-15T06:00:0");
        Files.write(folder.resolve("hostile.log"), file.toByteArray());

        for (String condition : List.of(
                "", "level = info", "message = good", "\"good\"", "n > 1", "deep exists", "failure.type exists")) {
            Asked logs = Asked.at(folder).where(condition);
            List<Event> events = new ArrayList<>();
            logs.read(events::add);
            assertTrue(events.stream()
                            .filter(event -> "good".equals(event.message()))
                            .count()
                    <= 2);
            assertEquals(events.size(), logs.newest(Integer.MAX_VALUE).matching(), condition);
            logs.answer(new Ask.Counts(List.of(Name.of("message"), Name.of("a")), Name.of("n")));
            logs.answer(new Ask.TimeSteps(10, Duration.ofSeconds(1), ZoneOffset.UTC, Name.of("level"), 4));
            logs.answer(new Ask.Failures(10));
            logs.answer(new Ask.Contrast(Condition.EVERYTHING, Window.ALWAYS));
            logs.answer(new Ask.ContextOf(Condition.parse("level = info"), 3));
            logs.answer(new Ask.Fields());
        }
        Coverage coverage = Asked.at(folder).read(event -> true);
        assertTrue(
                coverage.unreadableCount() + coverage.damagedCount() > 8,
                coverage.unreadable() + " " + coverage.damaged());
        List<String> good = new ArrayList<>();
        Asked.at(folder).where("message = good").read(event -> good.add(event.message()));
        assertEquals(List.of("good", "good"), good);
    }

    @Test
    void longLinesOfOneKindOfCharacterAreReadInOnePass() throws IOException {
        List<String> units = List.of(
                "a.",
                "a.b ",
                "\\\"",
                "[",
                "{\"a\":",
                "\"a\":x,",
                "(",
                "a=",
                "at a(",
                "1:",
                "<",
                "'",
                "- ",
                "\\",
                "@",
                "0-");
        StringBuilder lines = new StringBuilder();
        for (String unit : units) {
            String more = unit.repeat(200_000);
            lines.append("2026-11-23 05:01:56 ERROR ").append(more).append('\n');
            lines.append("1.2.3.4 - - [23/Nov/2026:05:01:56 +0000] \"")
                    .append(more)
                    .append("\" 200 1\n");
            lines.append("{\"ts\":1795442462,\"a\":1,").append(more).append("}\n");
            lines.append("x").append(more).append("\n\tat a.B.c(B.java:1)\n");
            lines.append("<14>1 2026-11-23T05:01:56Z a b c d [").append(more).append("] m\n");
        }
        Files.writeString(folder.resolve("long.log"), lines);
        List<Event> events = new ArrayList<>();
        Coverage coverage =
                Asked.at(folder).where("message.shape != nothing or ts exists").read(events::add);

        assertTrue(events.size() >= 4 * units.size(), events.size() + " events");
        assertEquals(0, coverage.unreadableCount());
    }

    @Test
    void compressedFilesThatAreCutOffAreReadUpToThere() throws IOException {
        ByteArrayOutputStream bytes = new ByteArrayOutputStream();
        try (OutputStream gzip = new GZIPOutputStream(bytes)) {
            Random random = new Random(1);
            for (int i = 0; i < 2_000; i++) {
                write(gzip, GOOD.replace("good", "good" + random.nextLong()));
            }
        }
        Files.write(folder.resolve("a.jsonl.gz"), Arrays.copyOf(bytes.toByteArray(), bytes.size() / 2));
        bytes.reset();
        try (OutputStream zstd = new ZstdOutputStream(bytes)) {
            write(zstd, GOOD.repeat(100));
        }
        Files.write(folder.resolve("b.jsonl.zst"), Arrays.copyOf(bytes.toByteArray(), bytes.size() - 5));
        Files.write(folder.resolve("c.jsonl.gz"), new byte[] {0x1F, (byte) 0x8B});
        Files.writeString(folder.resolve("d.jsonl"), GOOD);

        List<Event> events = new ArrayList<>();
        Coverage coverage = Asked.at(folder).read(events::add);
        assertTrue(events.size() > 500, events.size() + " events");
        assertTrue(
                coverage.unreadable().stream().anyMatch(each -> each.toString().contains("cut off or damaged")),
                coverage.unreadable().toString());
        assertEquals(events.size(), Asked.at(folder).newest(10).matching());
    }

    @ParameterizedTest
    @ValueSource(longs = {1, 2, 3, 4, 5, 6, 7, 8})
    void noiseIsNeverAFailure(long seed) throws IOException {
        Random random = new Random(seed);
        byte[] bytes = GOOD.repeat(200).getBytes(StandardCharsets.UTF_8);
        for (int i = 0; i < 400; i++) {
            bytes[random.nextInt(bytes.length)] = (byte) random.nextInt();
        }
        Files.write(folder.resolve("noise.log"), bytes);
        List<Event> events = new ArrayList<>();
        Asked.at(folder).read(events::add);
        Asked.at(folder).where("level = info and message = good").newest(5);
        assertTrue(events.size() < 210, "seed " + seed);
    }

    @Test
    void aFileThatIsTruncatedWhileItIsReadEndsThere() throws IOException {
        Path file = folder.resolve("cut.jsonl");
        int count = 200_000;
        StringBuilder lines = new StringBuilder();
        for (int i = 0; i < count; i++) {
            lines.append(GOOD.replace("good", "good " + i));
        }
        Files.writeString(file, lines);
        long half = Files.size(file) / 2; // in the middle of a line, or at its end
        List<String> messages = new ArrayList<>();

        Coverage coverage = Asked.at(file).read(event -> {
            if (messages.isEmpty()) {
                truncate(file, half);
            }
            messages.add(event.message());
            return true;
        });

        assertTrue(messages.size() >= count / 2 - 1 && messages.size() < count, messages.size() + " events");
        for (int i = 0; i < messages.size() - 1; i++) {
            assertEquals("good " + i, messages.get(i));
        }
        assertTrue(coverage.damagedCount() + coverage.unreadableCount() <= 1, coverage.toString());
        assertEquals(messages.size(), Asked.at(file).newest(1).matching(), "as when it was truncated before");
    }

    private static void truncate(Path file, long size) {
        try (FileChannel channel = FileChannel.open(file, StandardOpenOption.WRITE)) {
            channel.truncate(size);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /** More files than a process may have open. */
    @Test
    void veryManySmallFilesAreReadInTheOrderOfTime() throws IOException {
        int count = 5_000;
        for (int i = 0; i < count; i++) {
            Files.writeString(
                    folder.resolve("gate-" + (i * 7919 % count) + ".jsonl"),
                    Samples.text(Samples.event(i, "a" + i)) + Samples.text(Samples.event(2L * count - i, "b" + i)));
        }
        Asked logs = Asked.at(folder);
        List<Long> times = new ArrayList<>();

        logs.read(event -> times.add(event.epochNanos()));

        assertEquals(2 * count, times.size());
        assertEquals(times.stream().sorted().toList(), times);
        assertEquals(2 * count, logs.newest(1).matching());
    }

    private static void write(OutputStream to, String text) throws IOException {
        to.write(text.getBytes(StandardCharsets.UTF_8));
    }
}
