package dev.graphema.lines;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.lines.shape.LineShape;
import dev.graphema.query.Ask;
import dev.graphema.query.Question;
import dev.graphema.query.answer.CountTable;
import dev.graphema.query.answer.FailureKinds;
import dev.graphema.query.contract.Samples;
import dev.graphema.query.source.QueryExecutor;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Parts of texts are used like fields, in Graphema JSON and in other logs. */
class TextPartsTest {
    @TempDir
    Path folder;

    @Test
    void messagesAreCountedByTheirShapeAndFoundByIt() throws IOException {
        Files.writeString(
                folder.resolve("own.jsonl"),
                Samples.text(Samples.event(1, "lane A3 not free after 250ms"))
                        + Samples.text(Samples.event(2, "lane B1 not free after 3ms"))
                        + Samples.text(Samples.event(3, "started")));
        Files.writeString(
                folder.resolve("text.log"),
                "2026-11-23 05:01:56 WARN lane C2 not free after 7ms\n{\"ts\":1795442462,\"msg\":\"lane D1 not free after 1ms\"}\n");
        Asked logs = Asked.at(folder);

        assertEquals(
                Map.of("lane <any><number> not free after <number>ms", 4L, "started", 1L),
                counts(logs.counts("message.shape")));
        assertEquals(
                3,
                logs.where("message.shape ends \"<number>ms\" and level exists and message.word = lane")
                        .newest(10)
                        .matching());
        assertEquals(4, logs.where("message.shape != started").newest(10).matching());
    }

    private static Map<String, Long> counts(CountTable table) {
        Map<String, Long> counts = new LinkedHashMap<>();
        // The letter before the number is part of the shape.
        table.rows()
                .forEach(row -> counts.merge(
                        row.values().get(0).replaceAll("lane [A-D]", "lane <any>"),
                        row.events().count(),
                        Long::sum));
        return counts;
    }

    @Test
    void definedPartsHaveTheirNumbersAsNumbers() throws IOException {
        Path file = Files.writeString(folder.resolve("a.log"), """
                2026-11-23 05:01:56 lane A3 free after 250 steps
                2026-11-23 05:01:57 lane B1 free after 7 steps
                10.0.0.7 - - [23/Nov/2026:05:01:58 +0000] "GET /lanes/A3?x=1 HTTP/1.1" 200 512 "https://skerry.example:8443/" "-"
                """);
        LineShape shape = LineShape.USUAL.part("steps=message:after (\\d+)").part("page=path:path");
        LineFiles logs = LineFiles.at(List.of(file)).shaped(shape);

        assertEquals(
                1,
                QueryExecutor.answer(Question.where("steps > 100").newest(5), logs)
                        .matching());
        assertEquals(
                2,
                QueryExecutor.answer(Question.where("steps between 7 and 250").newest(5), logs)
                        .matching());
        assertEquals(
                1,
                QueryExecutor.answer(
                                        Question.where(
                                                        "page = /lanes/A3 and referer.host = skerry.example and path.path = page")
                                                .newest(5),
                                        logs)
                                .matching()
                        + QueryExecutor.answer(
                                        Question.where("page = /lanes/A3 and referer.host = skerry.example")
                                                .newest(5),
                                        logs)
                                .matching());
    }

    @Test
    void aFieldWhoseNameIsThatOfAPartIsReadFirst() throws IOException {
        StringBuilder lines = new StringBuilder();
        for (int i = 0; i < 3_000; i++) {
            boolean isPart = i % 3 > 0;
            String request = isPart ? "\"http://deck/lanes\"" : "{\"host\":\"booking\"}";
            String line = i % 2 > 0
                    ? "{\"ts\":\"%s\",\"request\":%s}\n"
                    : "{\"time\":\"%s\",\"level\":\"info\",\"message\":\"request\",\"fields\":{\"request\":%s}}\n";
            lines.append(line.formatted("2026-11-23T05:01:02.000000000Z", request));
        }
        Files.writeString(folder.resolve("a.jsonl"), lines);
        Asked logs = Asked.at(folder);

        assertEquals(Map.of("deck", 2_000L, "booking", 1_000L), counts(logs.counts("request.host")));
        assertEquals(2_000, logs.where("request.host = deck").newest(1).matching());
        assertEquals(1_000, logs.where("request.host = booking").newest(1).matching());
        assertEquals(3_000, logs.where("request.host exists").newest(1).matching());
    }

    @Test
    void failuresThatAreOnlyTextsAreKindsByTheirShape() throws IOException {
        StringBuilder lines = new StringBuilder();
        for (int i = 0; i < 6; i++) {
            lines.append("{\"ts\":%d,\"error\":\"%s\"}\n"
                    .formatted(
                            1_795_442_462L + i,
                            i % 3 == 0 ? "disk full" : "no lane A" + i + " within " + i * 10 + "ms"));
        }
        Files.writeString(folder.resolve("a.log"), lines);
        FailureKinds kinds = Asked.at(folder).answer(new Ask.Failures(3));

        assertEquals(2, kinds.kinds().size());
        assertEquals(4, kinds.kinds().get(0).count());
        assertEquals(
                "no lane A<number> within <number>ms",
                kinds.kinds().get(0).example().failure().type());
        String fingerprint = kinds.kinds().get(0).fingerprint();
        assertEquals(
                4,
                Asked.at(folder)
                        .where("failure.fingerprint = " + fingerprint)
                        .newest(10)
                        .matching(),
                "what a list of kinds suggests finds them");
        assertTrue(Asked.at(folder)
                        .where("failure.type = \"disk full\"")
                        .newest(10)
                        .matching()
                == 2);
    }
}
