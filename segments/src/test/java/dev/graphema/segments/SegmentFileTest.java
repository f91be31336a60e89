package dev.graphema.segments;

import static org.junit.jupiter.api.Assertions.assertArrayEquals;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.event.Event;
import dev.graphema.lines.LineFiles;
import dev.graphema.lines.RandomLog;
import dev.graphema.query.Question;
import dev.graphema.query.answer.Answer;
import dev.graphema.query.answer.CountTable;
import dev.graphema.query.answer.FoundEvents;
import dev.graphema.query.json.AnswerJson;
import dev.graphema.query.source.EventSource;
import dev.graphema.query.source.QueryExecutor;
import dev.graphema.segments.file.Directory;
import dev.graphema.segments.file.SegmentFile;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Objects;
import java.util.Random;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Files of segments: complete, empty, large, damaged, and of other kinds. */
class SegmentFileTest {
    @TempDir
    Path folder;

    @Test
    void linesOfAnyKindComeBack() throws IOException {
        List<byte[]> lines = new ArrayList<>();
        for (String text : List.of(
                "",
                "no event",
                "{\"ts\":5",
                "{\"time\":\"2026-02-30T05:00:00.000000000Z\",\"level\":\"info\"}",
                "{\"time\":\"2026-05-15T05:00:00.000000000Z\",\"level\":\"info\"}",
                "{\"time\":\"2026-05-15T05:00:00.000000000Z\",\"level\":\"info\",\"fields\":{\"a\":-0,\"b\":1e5,\"c\":007}}",
                "{\"time\":\"2026-05-15T05:00:00.000000000Z\",\"level\":\"info\",\"fields\":{\"a\":-0,\"b\":1e5,\"c\":[]}}",
                "{\"time\":\"2026-05-15T05:00:00.000000000Z\",\"level\":\"info\",\"fields\":{}}\r")) {
            lines.add(text.getBytes(StandardCharsets.UTF_8));
        }
        lines.add(new byte[] {(byte) 0xFF, 0, '"', 13});
        lines.add("x".repeat(3_000_000).getBytes(StandardCharsets.UTF_8));
        Path segment = folder.resolve("a.gseg");
        ByteArrayOutputStream expected = new ByteArrayOutputStream();
        try (SegmentWriter writer = new SegmentWriter(segment)) {
            for (byte[] line : lines) {
                writer.add(line, 0, line.length);
                expected.write(line);
                expected.write('\n');
            }
            assertFalse(Files.exists(segment), "a reader sees only complete files");
            writer.finish();
        }
        ByteArrayOutputStream back = new ByteArrayOutputStream();
        assertEquals(lines.size(), SegmentLines.copy(segment, back));
        assertArrayEquals(expected.toByteArray(), back.toByteArray());
    }

    @Test
    void aSegmentThatIsNotFinishedLeavesNothing() throws IOException {
        try (SegmentWriter writer = new SegmentWriter(folder.resolve("a.gseg"))) {
            writer.add("x".getBytes(StandardCharsets.UTF_8), 0, 1);
        }
        try (var files = Files.list(folder)) {
            assertEquals(0, files.count());
        }
    }

    @Test
    void anEmptySegmentHasNoEvents() throws IOException {
        Path segment = folder.resolve("a.gseg");
        WrittenSegments.write(segment, List.of());
        assertEquals(0, SegmentLines.copy(segment, new ByteArrayOutputStream()));
        assertEquals(0, newest(segment).matching());
    }

    @Test
    void severalGroupsAreReadInParallelAndByTheirTimes() throws IOException {
        List<String> lines = new ArrayList<>();
        for (int i = 0; i < 150_000; i++) {
            lines.add(
                    "{\"time\":\"2026-05-15T%02d:%02d:%02d.000000000Z\",\"level\":\"info\",\"service\":\"deck\",\"sequence\":%d}"
                            .formatted(i / 3600 % 24, i / 60 % 60, i % 60, i + 1));
        }
        Path log = Files.write(folder.resolve("a.jsonl"), lines);
        Path segment = folder.resolve("a.gseg");
        WrittenSegments.write(segment, lines);
        var question = Question.where("sequence > 100000 and service = deck").newest(3);
        FoundEvents expected = QueryExecutor.answer(question, LineFiles.at(List.of(log)));
        FoundEvents found = QueryExecutor.answer(question, SegmentFiles.at(List.of(folder)));
        assertEquals(50_000, found.matching());
        assertEquals(
                expected.events().stream().map(Event::sequence).toList(),
                found.events().stream().map(Event::sequence).toList());
        assertEquals(150_000, found.coverage().events());
        assertTrue(Files.size(segment) < Files.size(log) / 30, Files.size(segment) + " bytes");
    }

    @Test
    void linesOfAnotherProgramAreReadGroupByGroup() throws IOException {
        List<String> lines = new ArrayList<>();
        for (int i = 0; i < 140_000; i++) {
            lines.add("{\"ts\":%d,\"level\":\"%s\",\"lane\":\"A%d\"}"
                    .formatted(1_795_442_400 + i, i % 2 == 0 ? "info" : "warn", i % 7));
        }
        lines.set(100, "{\"ts\":1795442500,\"lane\":");
        Path log = Files.write(folder.resolve("a.jsonl"), lines);
        Path segment = folder.resolve("a.gseg");
        WrittenSegments.write(segment, lines);
        var question = Question.where("level = warn").counts("lane");
        CountTable expected = QueryExecutor.answer(question, LineFiles.at(List.of(log)));
        CountTable found = QueryExecutor.answer(question, SegmentFiles.at(List.of(segment)));
        assertEquals(expected.rows(), found.rows());
        assertEquals(expected.coverage().events(), found.coverage().events());
        assertEquals(
                segment.toString(),
                found.coverage().damaged().get(0).places().get(0).source());

        byte[] bytes = Files.readAllBytes(segment);
        bytes[20_000] ^= 1; // in the lines of the first group
        Files.write(segment, bytes);
        CountTable rest = QueryExecutor.answer(question, SegmentFiles.at(List.of(segment)));
        assertEquals(1, rest.coverage().failures().size());
        assertEquals(140_000 - SegmentWriter.LINES_OF_GROUP, rest.coverage().events());
    }

    private static FoundEvents newest(Path segment) throws IOException {
        return QueryExecutor.answer(Question.all().newest(10), SegmentFiles.at(List.of(segment)));
    }

    @Test
    void filesThatAreNoneAreReportedAndTheOthersAreRead() throws IOException {
        Path good = folder.resolve("good.gseg");
        WrittenSegments.write(good, RandomLog.lines(1, 50));
        byte[] bytes = Files.readAllBytes(good);
        Files.write(folder.resolve("empty.gseg"), new byte[0]);
        Files.writeString(folder.resolve("foreign.gseg"), "no segment at all, but a text");
        Files.write(folder.resolve("cut.gseg"), Arrays.copyOf(bytes, bytes.length - 40));
        byte[] newer = bytes.clone();
        newer[4] = 9;
        Files.write(folder.resolve("newer.gseg"), newer);

        FoundEvents found = QueryExecutor.answer(Question.all().newest(100), SegmentFiles.at(List.of(folder)));
        assertEquals(newest(good).matching(), found.matching());
        String failures = found.coverage().failures().toString();
        for (String expected : List.of(
                "empty.gseg is empty: it is no segment",
                "foreign.gseg is no segment: it does not begin as one",
                "cut.gseg is cut off: its directory, which is at the end, is missing",
                "newer.gseg has version 9 of the form of segments; this version of Graphema reads version 1: use a newer one")) {
            assertTrue(failures.contains(expected), failures);
        }
    }

    @Test
    void aFlippedBitIsNoticedOrHasNoEffect() throws IOException {
        Path segment = folder.resolve("a.gseg");
        WrittenSegments.write(segment, RandomLog.lines(2, 300));
        byte[] bytes = Files.readAllBytes(segment);
        var question = Question.where("level >= warn").counts("service", "lane", "failure.type", "message");
        CountTable expected = QueryExecutor.answer(question, SegmentFiles.at(List.of(segment)));
        Path damaged = folder.resolve("b.gseg");
        Random random = new Random(3);
        int noticed = 0;
        for (int i = 0; i < 200; i++) {
            byte[] flipped = bytes.clone();
            flipped[random.nextInt(bytes.length)] ^= (byte) (1 << random.nextInt(8));
            Files.write(damaged, flipped);
            CountTable answer = QueryExecutor.answer(question, SegmentFiles.at(List.of(damaged)));
            boolean isReported = !answer.coverage().failures().isEmpty();
            noticed += isReported ? 1 : 0;
            assertTrue(isReported || answer.rows().equals(expected.rows()), "flip " + i);
            boolean isFound;
            try {
                isFound = !SegmentLines.damage(damaged).isEmpty();
            } catch (IOException e) {
                isFound = true;
            }
            assertTrue(isFound || !isReported, "the check finds what an answer reports, flip " + i);
        }
        assertTrue(noticed > 100, "noticed " + noticed);
    }

    /** A trace, counts by level and service, and rare levels are found without the blocks that make finding them faster. */
    @Test
    void damageOfAnOptionalBlockIsReportedAndCostsNoEvents() throws IOException {
        List<String> lines = new ArrayList<>();
        for (int i = 0; i < 2000; i++) {
            lines.add(
                    "{\"time\":\"2026-05-15T05:00:00.%09dZ\",\"level\":\"%s\",\"service\":\"deck\",\"trace\":\"%032x\"}"
                            .formatted(i, i % 100 == 7 ? "error" : "info", i / 4 + 1));
        }
        Path segment = folder.resolve("a.gseg");
        WrittenSegments.write(segment, lines);
        byte[] bytes = Files.readAllBytes(segment);
        List<Directory.Block> blocks = group(segment).optionalBlocks();
        assertEquals(3, blocks.size());
        List<Question<?>> questions = List.of(
                Question.where("trace = %032x".formatted(77)).oldest(9),
                Question.where("level >= warn").counts("level", "service"),
                Question.where("level = error and sequence missing").counts("level"));
        for (int i = 0; i < questions.size(); i++) {
            EventSource source = SegmentFiles.at(List.of(segment));
            List<String> expected = rows(questions.get(i), source);
            assertEquals(i == 0 ? 4 : 1, expected.size());
            byte[] damaged = bytes.clone();
            damaged[(int) blocks.get(i).offset()] ^= 1;
            Files.write(segment, damaged);
            assertEquals(expected, rows(questions.get(i), source));
            String message = "the block at byte " + blocks.get(i).offset()
                    + " is damaged; it only makes searching faster, and is not used";
            assertEquals(
                    message,
                    QueryExecutor.answer(questions.get(i), source)
                            .coverage()
                            .failures()
                            .get(0)
                            .reason());
            assertEquals(List.of(segment + ": " + message), SegmentLines.damage(segment));
            Files.write(segment, bytes);
        }
    }

    /** Groups whose texts do not contain what is looked for are left without reading the texts. */
    @Test
    void textsAreReadOnlyIfTheyMayContainWhatIsLookedFor() throws IOException {
        Random random = new Random(6);
        List<String> words = IntStream.range(0, 80)
                .mapToObj(i -> Integer.toString(random.nextInt(10_000, 1_000_000), Character.MAX_RADIX))
                .toList();
        List<String> lines = new ArrayList<>();
        for (int i = 0; i < 40_000; i++) {
            String text = random.ints(9, 0, words.size()).mapToObj(words::get).collect(Collectors.joining(" "));
            lines.add(
                    "{\"time\":\"2026-05-15T05:00:00.%09dZ\",\"level\":\"info\",\"message\":\"%s\",\"fields\":{\"note\":%s}}"
                            .formatted(
                                    i,
                                    i == 777 ? text + " Half \\\"Mast\\\"" : text,
                                    i % 2 == 0 ? "7" : "[\"" + words.get(i % 80) + "\"]"));
        }
        Path segment = folder.resolve("a.gseg");
        WrittenSegments.write(segment, lines);
        Path log = Files.write(folder.resolve("a.jsonl"), lines);
        EventSource source = SegmentFiles.at(List.of(segment));
        for (String condition :
                List.of("message has nowhere", "\"nowhere to be\"", "message starts nowhere and note exists")) {
            FoundEvents found = QueryExecutor.answer(Question.where(condition).newest(5), source);
            assertEquals(0, found.matching());
            assertTrue(
                    found.coverage().bytes() < Files.size(segment) / 8,
                    found.coverage().toString());
        }
        String one = words.get(3);
        for (String condition : List.of(
                "message has \"%s %s\"".formatted(one, words.get(4)),
                "\"%s\"".formatted(one.substring(1)),
                "note = \"%s\"".formatted(words.get(5)),
                "message has \" half\"",
                "\"half \\\"mast\"",
                "not message has \"%s\"".formatted(one),
                "weight = \"1\"",
                "message has \"%s\" or note = 7".formatted(one))) {
            Question<CountTable> question = Question.where(condition).counts();
            List<String> expected = rows(question, LineFiles.at(List.of(log)));
            assertFalse(expected.isEmpty(), condition);
            assertEquals(expected, rows(question, source), condition);
        }
        Directory.Block parts = group(segment).values().values().stream()
                .map(Directory.Values::parts)
                .filter(Objects::nonNull)
                .findFirst()
                .orElseThrow();
        byte[] bytes = Files.readAllBytes(segment);
        bytes[(int) parts.offset() + 9] ^= 4;
        Files.write(segment, bytes);
        CountTable answer = QueryExecutor.answer(
                Question.where("message has \"" + one + "\"").counts(), source);
        assertTrue(answer.all().count() > 1_000);
        assertTrue(answer.coverage().failures().toString().contains("is damaged; it only makes searching faster"));
    }

    private static <A extends Answer> List<String> rows(Question<A> question, EventSource source) throws IOException {
        return AnswerJson.rows(QueryExecutor.answer(question, source)).toList();
    }

    private static Directory.Group group(Path segment) throws IOException {
        try (SegmentFile file = SegmentFile.open(segment)) {
            return file.contents().groups().get(0);
        }
    }

    @Test
    void aDamagedBlockIsNamed() throws IOException {
        Path segment = folder.resolve("a.gseg");
        WrittenSegments.write(segment, RandomLog.lines(2, 300));
        byte[] bytes = Files.readAllBytes(segment);
        Directory.Group group = group(segment);
        int values = (int) group.shapes().offset();
        bytes[values] ^= 1;
        Files.write(segment, bytes);
        assertEquals(
                List.of(segment + ": the block at byte " + values + " is damaged; its events are left out"),
                SegmentLines.damage(segment));
        assertThrows(IOException.class, () -> SegmentLines.copy(segment, new ByteArrayOutputStream()));
    }
}
