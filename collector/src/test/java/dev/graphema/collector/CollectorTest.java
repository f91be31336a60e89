package dev.graphema.collector;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import com.github.luben.zstd.Zstd;
import dev.graphema.condition.Condition;
import dev.graphema.query.Question;
import dev.graphema.query.answer.FoundEvents;
import dev.graphema.query.json.QuestionJson;
import dev.graphema.query.source.EventSource;
import dev.graphema.query.source.Following;
import dev.graphema.query.source.QueryExecutor;
import dev.graphema.remote.RemoteSource;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.zip.GZIPOutputStream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Assumptions;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class CollectorTest {
    private static final String LINE =
            "{\"time\":\"2026-05-15T05:00:0%d.000000000Z\",\"level\":\"%s\",\"service\":\"deck\",\"message\":\"lane %d closed\"}\n";

    @TempDir
    private Path folder;

    private Collector collector;

    @BeforeEach
    void start() throws IOException {
        collector = Collectors.start(folder.resolve("store"));
    }

    @AfterEach
    void close() throws IOException {
        collector.close();
    }

    private static String lines(int from, int to) {
        StringBuilder lines = new StringBuilder();
        for (int i = from; i < to; i++) {
            lines.append(LINE.formatted(i, i % 2 == 0 ? "info" : "warn", i));
        }
        return lines.toString();
    }

    @Test
    void sentLinesAreStoredAndFoundAlsoAfterRestart() throws IOException {
        HttpResponse<String> answer = Collectors.post(collector, "/lines", lines(0, 5));
        assertEquals(200, answer.statusCode());
        assertEquals("{\"stored\":5}", answer.body());
        assertEquals(2, warnings());
        collector.close();
        collector = Collectors.start(folder.resolve("store"));
        assertEquals(2, warnings());
    }

    private long warnings() throws IOException {
        EventSource source = RemoteSource.at(Collectors.address(collector), null);
        FoundEvents found = QueryExecutor.answer(Question.where("level = warn").newest(10), source);
        assertEquals(List.of(), found.coverage().failures());
        return found.matching();
    }

    /** As curl sends them by default. */
    @Test
    void linesThatSeemToBeAFormAreStored() throws IOException {
        HttpResponse<String> answer = Collectors.send(
                HttpRequest.newBuilder(Collectors.address(collector).resolve("/lines?a=1&b=%20&c"))
                        .header("Content-Type", "application/x-www-form-urlencoded")
                        .POST(HttpRequest.BodyPublishers.ofString(lines(0, 4))));
        assertEquals("{\"stored\":4}", answer.body());
        assertEquals(2, warnings());
    }

    @Test
    void aQuestionIsAnsweredAsJson() throws IOException {
        Collectors.post(collector, "/lines", lines(0, 4));
        String question = QuestionJson.of(Question.all().counts("level"));
        HttpResponse<String> answer = Collectors.post(collector, "/questions", question);
        assertEquals(200, answer.statusCode());
        assertTrue(answer.body().startsWith("{\"answer\":\"counts\""), answer.body());
        assertTrue(answer.body().contains("{\"by\":{\"level\":\"warn\"},\"count\":2}"), answer.body());
    }

    @Test
    void compressedBodiesAreInflated() throws IOException {
        ByteArrayOutputStream zipped = new ByteArrayOutputStream();
        try (GZIPOutputStream gzip = new GZIPOutputStream(zipped)) {
            gzip.write(lines(0, 2).getBytes(StandardCharsets.UTF_8));
        }
        assertEquals(200, encoded("gzip", zipped.toByteArray()).statusCode());
        byte[] plain = lines(2, 4).getBytes(StandardCharsets.UTF_8);
        assertEquals(200, encoded("zstd", Zstd.compress(plain)).statusCode());
        assertEquals(2, warnings());
    }

    private HttpResponse<String> encoded(String encoding, byte[] body) throws IOException {
        return Collectors.send(
                HttpRequest.newBuilder(Collectors.address(collector).resolve("/lines"))
                        .header("Content-Encoding", encoding)
                        .POST(HttpRequest.BodyPublishers.ofByteArray(body)));
    }

    @Test
    void aQuestionCanBeATextAndItsAnswerAStream() throws IOException {
        Collectors.post(
                collector,
                "/lines",
                "{\"level\":\"error\",\"msg\":\"refused\"}\n{\"level\":\"info\",\"msg\":\"booked\"}\n");
        HttpRequest.Builder request = HttpRequest.newBuilder(collector.address().resolve("/questions"))
                .header("Content-Type", "text/plain; charset=utf-8")
                .header("Accept", "text/event-stream")
                .POST(HttpRequest.BodyPublishers.ofString("level >= error\n"));
        HttpResponse<String> answer = Collectors.send(request);
        assertEquals(
                "text/event-stream",
                answer.headers().firstValue("Content-Type").orElse("").split(";")[0]);
        assertTrue(answer.body().startsWith("event: answer\ndata: {"), answer.body());
        assertTrue(answer.body().contains("refused") && !answer.body().contains("booked"), answer.body());
        assertTrue(answer.body().endsWith("}\n\n"), answer.body());
        problem(
                400,
                "level >=",
                Collectors.send(HttpRequest.newBuilder(collector.address().resolve("/questions"))
                        .header("Content-Type", "text/plain")
                        .POST(HttpRequest.BodyPublishers.ofString("level >="))));
    }

    @Test
    void curlSendsAndAsks() throws Exception {
        Path curl = Path.of("/usr/bin/curl");
        Assumptions.assumeTrue(Files.isExecutable(curl), "there is no curl here: install it");
        Path lines = Files.writeString(folder.resolve("deck.log"), "2026-05-15 05:00:02 ERROR barrier is stuck\n");
        String stored = run(curl, "--data-binary", "@" + lines, collector.address() + "/lines");
        assertEquals("{\"stored\":1}", stored);
        String answer =
                run(curl, "-H", "Content-Type: text/plain", "-d", "level = error", collector.address() + "/questions");
        assertTrue(answer.contains("barrier is stuck"), answer);
    }

    private static String run(Path program, String... arguments) throws Exception {
        List<String> command = new ArrayList<>(List.of(program.toString(), "-sS", "--max-time", "20"));
        command.addAll(List.of(arguments));
        Process process = new ProcessBuilder(command).redirectErrorStream(true).start();
        String output = new String(process.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
        assertEquals(0, process.waitFor(), output);
        return output;
    }

    @Test
    void badRequestsAreAnsweredByProblemDocuments() throws IOException {
        problem(415, "Content-Encoding is \\\"br\\\": expected gzip, zstd or identity", encoded("br", new byte[3]));
        problem(400, "the body cannot be inflated: ", encoded("gzip", new byte[300]));
        problem(400, "the body cannot be inflated: ", encoded("zstd", new byte[] {40, 1, 2, 3, 4, 5, 6}));
        problem(
                413,
                "the request sends 16777217 bytes: send at most 16777216 at a time",
                encoded("identity", new byte[(16 << 20) + 1]));
        problem(413, "inflates to more than 67108864 bytes", encoded("zstd", Zstd.compress(new byte[100 << 20])));
        problem(404, "expected one that GET /openapi.json describes", Collectors.post(collector, "/nowhere", ""));
        problem(
                405,
                "expected POST",
                Collectors.send(
                        HttpRequest.newBuilder(Collectors.address(collector).resolve("/lines"))));
        problem(400, "expected one JSON object", Collectors.post(collector, "/questions", "[]"));
        problem(
                400,
                "role: \\\"middle\\\"",
                Collectors.post(
                        collector,
                        "/questions/part?role=middle",
                        QuestionJson.of(Question.all().newest(1))));
        assertEquals(0, warnings());
    }

    private static void problem(int status, String detail, HttpResponse<String> answer) {
        assertEquals(status, answer.statusCode(), answer.body());
        assertEquals(
                "application/problem+json",
                answer.headers().firstValue("Content-Type").orElse(null));
        assertTrue(answer.body().contains(detail), answer.body());
        assertTrue(answer.body().contains("\"status\":" + status), answer.body());
    }

    @Test
    void eventsArePassedOnAsTheyArrive() throws IOException {
        EventSource source = RemoteSource.at(Collectors.address(collector), null);
        List<String> messages = new ArrayList<>();
        try (Following following = source.follow(Condition.parse("level = warn"))) {
            Collectors.post(collector, "/lines", lines(0, 6));
            while (messages.size() < 3 && following.poll(event -> messages.add(event.message()))) {
                // on until all have arrived
            }
        }
        assertEquals(List.of("lane 1 closed", "lane 3 closed", "lane 5 closed"), messages);
    }

    @Test
    void othersCannotReachIt() {
        CollectorOptions open = CollectorOptions.usual(folder.resolve("other"), System.err::println)
                .host("0.0.0.0");
        String message =
                assertThrows(IOException.class, () -> Collector.start(open)).getMessage();
        assertTrue(message.startsWith("0.0.0.0 can be reached from other machines"), message);
    }

    @Test
    void tooManyEventsAreNotKeptForOneAnswer() throws IOException {
        Collectors.post(collector, "/lines", lines(0, 1));

        HttpResponse<String> all = Collectors.post(collector, "/questions", "{\"ask\":{\"kind\":\"events\"}}");
        assertEquals(400, all.statusCode());
        assertTrue(all.body().contains("expected at most 100000; POST /questions/events returns all"), all.body());
        assertEquals(
                200,
                Collectors.post(collector, "/questions", "{\"ask\":{\"kind\":\"events\",\"limit\":100000}}")
                        .statusCode());
        EventSource remote = RemoteSource.at(collector.address(), null);
        assertEquals(
                1,
                QueryExecutor.answer(Question.all().newest(Integer.MAX_VALUE), remote)
                        .matching());
    }

    @Test
    void aPortInUseIsNamed() {
        CollectorOptions same = CollectorOptions.usual(folder.resolve("other"), System.err::println)
                .port(collector.port());
        String message =
                assertThrows(IOException.class, () -> Collector.start(same)).getMessage();
        assertTrue(message.startsWith("port " + collector.port() + " of 127.0.0.1 is not free"), message);
    }
}
