package dev.graphema.collector;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertNull;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.collector.access.Role;
import dev.graphema.collector.access.Token;
import dev.graphema.collector.access.Tokens;
import dev.graphema.condition.Condition;
import dev.graphema.query.Question;
import dev.graphema.query.answer.CountTable;
import dev.graphema.query.answer.Differences;
import dev.graphema.query.json.QuestionJson;
import dev.graphema.query.source.EventSource;
import dev.graphema.query.source.Following;
import dev.graphema.query.source.QueryExecutor;
import dev.graphema.remote.RemoteSource;
import java.io.IOException;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Without a valid token, nothing is accessible; with one, only what it grants. */
class AccessTest {
    private static final String LINES = """
            {"time":"2026-05-15T05:00:00.000000000Z","level":"info","service":"deck","message":"lane closed"}
            {"time":"2026-05-15T05:00:01.000000000Z","level":"warn","service":"booking","message":"refused"}
            """;

    @TempDir
    private Path folder;

    private Path store;
    private Tokens tokens;
    private Collector collector;
    private String sender;

    @BeforeEach
    void start() throws IOException {
        store = folder.resolve("store");
        tokens = new Tokens(store);
        sender = tokens.create(Token.of("deck", Role.SEND));
        collector = Collector.start(CollectorOptions.usual(store, problem -> {}).port(0));
    }

    @AfterEach
    void close() throws IOException {
        collector.close();
    }

    private HttpResponse<String> post(String path, String token, String body) throws IOException {
        HttpRequest.Builder request = HttpRequest.newBuilder(
                        Collectors.address(collector).resolve(path))
                .POST(HttpRequest.BodyPublishers.ofString(body));
        return Collectors.send(token == null ? request : request.header("Authorization", "Bearer " + token));
    }

    private EventSource reading(String token) {
        return RemoteSource.at(Collectors.address(collector), token);
    }

    @Test
    void nothingIsAccessibleWithoutAToken() throws IOException {
        for (String path :
                List.of("/lines", "/v1/logs", "/v1/traces", "/questions", "/questions/part", "/questions/events")) {
            for (String token : new String[] {null, "", "graphema_wrong", sender + "x"}) {
                HttpResponse<String> answer = Collectors.send(
                        HttpRequest.newBuilder(Collectors.address(collector).resolve(path))
                                .header("Content-Type", "application/json")
                                .header("Authorization", "Bearer " + token)
                                .POST(HttpRequest.BodyPublishers.ofString("{}")));
                assertEquals(401, answer.statusCode(), path);
                assertEquals(
                        "Bearer",
                        answer.headers().firstValue("WWW-Authenticate").orElse(null));
            }
        }
        assertEquals(
                401,
                Collectors.send(HttpRequest.newBuilder(
                                Collectors.address(collector).resolve("/live")))
                        .statusCode());
        assertEquals(401, post("/lines", null, LINES).statusCode());
    }

    @Test
    void aRoleIsNotTheOther() throws IOException {
        String reader = tokens.create(Token.of("mara", Role.READ));
        assertEquals(200, post("/lines", sender, LINES).statusCode());
        assertEquals(403, post("/lines", reader, LINES).statusCode());
        String question = QuestionJson.of(Question.all().counts("level"));
        assertEquals(200, post("/questions", reader, question).statusCode());
        HttpResponse<String> refused = post("/questions", sender, question);
        assertEquals(403, refused.statusCode());
        assertTrue(refused.body().contains("this token is to send only: use one to read"), refused.body());
    }

    @Test
    void aReaderSeesOnlyWhatTheConditionAcceptsForEveryQuestion() throws IOException {
        post("/lines", sender, LINES);
        String reader = tokens.create(Token.of("deck-team", Role.READ).seeing(Condition.parse("service = deck")));
        EventSource source = reading(reader);
        CountTable counts = QueryExecutor.answer(Question.all().counts("service"), source);
        assertEquals(1, counts.rows().size());
        assertEquals(
                0,
                QueryExecutor.answer(
                                Question.where("service = booking or level = warn")
                                        .newest(5),
                                source)
                        .matching());
        Differences differences =
                QueryExecutor.answer(Question.all().contrastWith(Question.where("service = booking")), source);
        assertEquals(1, differences.events());
        assertEquals(0, differences.others());
        String contrast = QuestionJson.of(Question.all().contrastWith(Question.where("service = booking")));
        assertTrue(post("/questions", reader, contrast).body().contains("\"others\":0"));
        List<String> messages = new ArrayList<>();
        QueryExecutor.read(Question.all(), source, progress -> true, event -> messages.add(event.message()));
        assertEquals(List.of("lane closed"), messages);
        assertTrue(
                QueryExecutor.answer(Question.all().values(), source).toString().contains("deck"));
        assertFalse(
                QueryExecutor.answer(Question.all().values(), source).toString().contains("booking"));
    }

    @Test
    void aReaderOfLiveEventsSeesOnlyThose() throws IOException {
        String reader = tokens.create(Token.of("deck-team", Role.READ).seeing(Condition.parse("service = booking")));
        List<String> messages = new ArrayList<>();
        try (Following following = reading(reader).follow(Condition.EVERYTHING)) {
            post("/lines", sender, LINES);
            while (messages.isEmpty() && following.poll(event -> messages.add(event.message()))) {
                // on until it has arrived
            }
        }
        assertEquals(List.of("refused"), messages);
    }

    @Test
    void hiddenFieldsAreNowhereAndPseudonymsAreTheSameEverywhere() throws Exception {
        String mail = "kari@skerry.example";
        String lines = """
                {"time":"2026-05-15T05:00:00.000000000Z","level":"info","service":"booking","message":"booked","fields":{"passenger":{"mail":"%s","name":"Kari"},"pin":"4711"}}
                {"time":"2026-05-15T05:00:01.000000000Z","level":"info","service":"booking","message":"paid","fields":{"passenger":{"mail":"%s","name":"Kari"},"pin":"4711"}}
                """.formatted(mail, mail);
        post("/lines", sender, lines);
        String reader = tokens.create(Token.of("support", Role.READ)
                .seeing(Condition.parse("passenger.name = Kari"))
                .hiding(List.of("pin", "passenger.name"), List.of("passenger.mail")));
        EventSource source = reading(reader);
        assertEquals(
                0,
                QueryExecutor.answer(Question.where("pin = 4711").newest(5), source)
                        .matching());
        assertEquals(
                0,
                QueryExecutor.answer(
                                Question.where("passenger.mail starts kari or \"Kari\"")
                                        .newest(5),
                                source)
                        .matching());
        CountTable mails = QueryExecutor.answer(Question.all().counts("passenger.mail"), source);
        assertEquals(1, mails.rows().size());
        String pseudonym = mails.rows().get(0).values().get(0).toString();
        assertTrue(pseudonym.startsWith("pseudonym-c1-"), pseudonym);
        assertEquals(
                2,
                QueryExecutor.answer(
                                Question.where("passenger.mail = \"" + pseudonym + "\"")
                                        .newest(5),
                                source)
                        .matching());
        for (String question : List.of(
                QuestionJson.of(Question.all().newest(5)),
                QuestionJson.of(Question.all().values()),
                QuestionJson.of(Question.all().catalogue()),
                QuestionJson.of(Question.all().counts("pin", "passenger.name")),
                QuestionJson.of(Question.all().contrastWith(Question.where("message = paid"))))) {
            String answer = post("/questions", reader, question).body();
            assertFalse(answer.contains("4711") || answer.contains("Kari") || answer.contains("kari"), answer);
        }
        String all = post(
                        "/questions/events",
                        reader,
                        QuestionJson.of(Question.all().oldest(9)))
                .body();
        assertTrue(all.contains(pseudonym), all);
        assertFalse(all.contains("4711") || all.contains("Kari") || all.contains("kari"), all);
        List<String> live = new ArrayList<>();
        try (Following following = reading(reader).follow(Condition.parse("message = booked"))) {
            post("/lines", sender, lines);
            while (live.isEmpty() && following.poll(event -> live.add(event.toString()))) {
                // on until it has arrived
            }
        }
        assertFalse(live.toString().contains("4711") || live.toString().contains("ari"), live.toString());
        String key = Files.readString(store.resolve("pseudonyms.key"));
        assertEquals(44, key.length());
    }

    @Test
    void onlyFieldsCanBeHidden() {
        for (List<String> each : List.of(List.of("message"), List.of("failure.message"), List.of(""))) {
            Token token = Token.of("x", Role.READ).hiding(each, List.of());
            String message = assertThrows(IllegalArgumentException.class, () -> tokens.create(token))
                    .getMessage();
            assertTrue(message.contains("is not the name of a field, and cannot be hidden"), message);
        }
    }

    @Test
    void tokensEndAtOnceWhenRevokedAndWhenTheyExpire() throws IOException {
        String short1 =
                tokens.create(Token.of("short", Role.SEND).until(Instant.now().minusSeconds(1)));
        assertEquals(401, post("/lines", short1, LINES).statusCode());
        assertEquals(200, post("/lines", sender, LINES).statusCode());
        tokens.create(Token.of("other", Role.SEND));
        assertTrue(tokens.revoke("other"));
        assertTrue(tokens.revoke("deck"));
        assertFalse(tokens.revoke("deck"));
        assertTrue(tokens.revoke("short"));
        assertEquals(List.of(), tokens.all());
        assertEquals(401, post("/lines", null, LINES).statusCode());
        assertEquals(401, post("/lines", sender, LINES).statusCode());
    }

    @Test
    void tokensAreNotKeptAndNotTakenFromAddresses() throws IOException {
        String file = Files.readString(store.resolve("tokens.jsonl"));
        assertFalse(file.contains(sender));
        assertTrue(file.contains("\"name\":\"deck\",\"role\":\"send\",\"hash\":\""), file);
        HttpResponse<String> answer = post("/lines?access_token=" + sender, sender, LINES);
        assertEquals(400, answer.statusCode());
        assertTrue(answer.body().contains("revoke this one"), answer.body());
        assertNull(Collectors.send(
                        HttpRequest.newBuilder(Collectors.address(collector).resolve("/health")))
                .headers()
                .firstValue("Server")
                .orElse(null));
    }

    @Test
    void aDamagedFileLetsNobodyIn() throws IOException {
        Files.writeString(store.resolve("tokens.jsonl"), "{\"name\":\"deck\"}\n");
        HttpResponse<String> answer = post("/lines", sender, LINES);
        assertEquals(503, answer.statusCode());
        String message = assertThrows(IOException.class, () -> tokens.all()).getMessage();
        assertTrue(message.contains("tokens.jsonl:1 is no token: \"role\" is missing"), message);
    }
}
