package dev.graphema.collector;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.collector.access.Role;
import dev.graphema.collector.access.Token;
import dev.graphema.collector.access.Tokens;
import dev.graphema.query.Question;
import dev.graphema.query.answer.FoundEvents;
import dev.graphema.query.json.QuestionJson;
import dev.graphema.query.source.QueryExecutor;
import dev.graphema.remote.RemoteSource;
import java.io.IOException;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.file.Path;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What administrators see and do. */
class OperationTest {
    @TempDir
    private Path folder;

    private Collector collector;
    private String administrator;
    private String reader;

    @BeforeEach
    void start() throws IOException {
        Tokens tokens = new Tokens(folder);
        administrator = tokens.create(Token.of("olav", Role.ADMINISTER));
        reader = tokens.create(Token.of("mara", Role.READ));
        collector = Collectors.start(folder);
    }

    @AfterEach
    void close() throws IOException {
        collector.close();
    }

    private HttpResponse<String> send(String method, String path, String token, String body) throws IOException {
        return Collectors.send(HttpRequest.newBuilder(collector.address().resolve(path))
                .header("Authorization", "Bearer " + token)
                .method(method, HttpRequest.BodyPublishers.ofString(body)));
    }

    @Test
    void administratorsCreateListAndRevokeTokens() throws IOException {
        HttpResponse<String> created = send(
                "POST",
                "/tokens",
                administrator,
                "{\"name\":\"deck\",\"role\":\"send\",\"environment\":\"test\",\"for\":\"1d\"}");
        assertEquals(201, created.statusCode(), created.body());
        String sender = created.body().replaceAll(".*\"token\":\"([^\"]*)\".*", "$1");
        assertEquals(200, send("POST", "/lines", sender, "{\"msg\":\"a\"}").statusCode());
        String list = send("GET", "/tokens", administrator, "").body();
        assertTrue(list.contains("{\"name\":\"deck\",\"role\":\"send\",\"kind\":\"token\",\"created\":\""), list);
        assertTrue(list.contains("\"environment\":\"test\"") && list.contains("\"expires\""), list);
        assertFalse(list.contains("hash") || list.contains(sender), list);
        assertEquals(
                409,
                send("POST", "/tokens", administrator, "{\"name\":\"deck\"}").statusCode());
        assertEquals(200, send("DELETE", "/tokens?name=deck", administrator, "").statusCode());
        assertEquals(404, send("DELETE", "/tokens?name=deck", administrator, "").statusCode());
        assertEquals(401, send("POST", "/lines", sender, "{}").statusCode());
        for (String method : new String[] {"GET", "POST", "DELETE"}) {
            assertEquals(403, send(method, "/tokens", reader, "{}").statusCode(), method);
        }
    }

    @Test
    void whatATokenCannotBeIsExplained() throws IOException {
        String[][] wrong = {
            {"x", "expected a JSON object"},
            {"[]", "expected a JSON object with name and role"},
            {"{\"name\":7}", "expected a text"},
            {"{}", "name is missing"},
            {"{\"name\":\"a\",\"rights\":\"all\"}", "expected texts for some of name, role"},
            {"{\"name\":\"a\",\"role\":\"root\"}", "expected send, read, measure or administer"},
            {"{\"name\":\"a\",\"when\":\"level >\"}", "when: "},
            {"{\"name\":\"a\",\"for\":\"soon\"}", "expected such as 30d"},
        };
        for (String[] each : wrong) {
            HttpResponse<String> answer = send("POST", "/tokens", administrator, each[0]);
            assertEquals(400, answer.statusCode(), each[0]);
            assertTrue(answer.body().contains(each[1]), answer.body());
        }
    }

    @Test
    void everyQuestionIsRecordedForAdministrators() throws IOException {
        String question = QuestionJson.of(Question.where("level = error").newest(3));
        assertEquals(200, send("POST", "/questions", reader, question).statusCode());
        send("POST", "/tokens", administrator, "{\"name\":\"deck\"}");
        FoundEvents trail = QueryExecutor.answer(
                Question.all().newest(9), RemoteSource.at(collector.address().resolve("/audit"), administrator));
        String all = trail.events().toString();
        assertTrue(all.contains("mara") && all.contains("level = error") && all.contains("127.0.0.1"), all);
        assertTrue(all.contains("token created") && all.contains("olav"), all);
        assertEquals(403, send("POST", "/audit/questions", reader, question).statusCode());
        assertEquals(
                0,
                QueryExecutor.answer(Question.all().newest(9), RemoteSource.at(collector.address(), administrator))
                        .matching());
    }

    @Test
    void measurementsAreReadWithATokenOfTheirOwn() throws IOException {
        String measuring = new Tokens(folder).create(Token.of("meter", Role.MEASURE));
        String sender = new Tokens(folder).create(Token.of("gate", Role.SEND));
        send("POST", "/lines", sender, "{\"msg\":\"a\"}\n{\"msg\":\"b\"}\n");
        HttpResponse<String> answer = send("GET", "/metrics", measuring, "");
        assertEquals(200, answer.statusCode());
        assertTrue(answer.headers().firstValue("Content-Type").orElse("").startsWith("application/openmetrics-text"));
        String text = answer.body();
        assertTrue(text.contains("\ngraphema_collector_stored_events_total 2\n"), text);
        assertTrue(
                text.contains("graphema_collector_requests_total{request=\"POST /lines\",status=\"200\"} 1\n"), text);
        assertTrue(text.endsWith("# EOF\n"), text);
        for (String line : text.split("\n")) {
            assertTrue(line.startsWith("# ") || line.matches("graphema_collector_[a-z_]+(\\{.*})? [0-9]+"), line);
        }
        assertEquals(403, send("GET", "/metrics", reader, "").statusCode());
        assertEquals(403, send("POST", "/questions", measuring, "{}").statusCode());
    }

    @Test
    void readersShareQuestionsWithNames() throws IOException {
        String question = QuestionJson.of(Question.where("level = error").newest(3));
        assertEquals(
                200,
                send("POST", "/kept?name=errors%20of%20today", reader, question).statusCode());
        String list = send("GET", "/kept", administrator, "").body();
        assertTrue(list.contains("\"name\":\"errors of today\",\"by\":\"mara\""), list);
        String other = new Tokens(folder).create(Token.of("nils", Role.READ));
        assertEquals(
                403,
                send("POST", "/kept?name=errors%20of%20today", other, question).statusCode());
        assertEquals(
                403, send("DELETE", "/kept?name=errors%20of%20today", other, "").statusCode());
        assertEquals(
                200,
                send("DELETE", "/kept?name=errors%20of%20today", administrator, "")
                        .statusCode());
        assertEquals("[]", send("GET", "/kept", other, "").body());
        assertEquals(404, send("DELETE", "/kept?name=x", other, "").statusCode());
        assertEquals(400, send("POST", "/kept?name=x", other, "{}").statusCode());
        assertEquals(
                400, send("POST", "/kept?name=%3Cscript%3E", other, question).statusCode());
    }

    @Test
    void usersSignInAndOut() throws IOException {
        new Tokens(folder).createUser(Token.of("liv", Role.READ), "correct horse");
        HttpResponse<String> wrong = signIn("liv", "wrong horse");
        assertEquals(401, wrong.statusCode());
        assertEquals(401, signIn("nobody", "correct horse").statusCode());
        assertEquals(401, signIn("mara", "correct horse").statusCode()); // which is a token
        HttpResponse<String> right = signIn("liv", "correct horse");
        assertEquals(200, right.statusCode(), right.body());
        String set = right.headers().firstValue("Set-Cookie").orElseThrow();
        assertTrue(set.contains("HttpOnly") && set.contains("SameSite=Strict"), set);
        String cookie = set.substring(0, set.indexOf(';'));
        assertEquals(200, withCookie("POST", "/questions", cookie).statusCode());
        assertEquals(403, withCookie("GET", "/tokens", cookie).statusCode());
        assertEquals(401, withCookie("POST", "/questions", cookie + "x").statusCode());
        assertEquals(
                403,
                Collectors.send(HttpRequest.newBuilder(collector.address().resolve("/questions"))
                                .header("Cookie", cookie)
                                .header("Origin", "https://evil.example")
                                .POST(HttpRequest.BodyPublishers.ofString("{}")))
                        .statusCode());
        assertEquals(200, withCookie("DELETE", "/session", cookie).statusCode());
        assertEquals(401, withCookie("POST", "/questions", cookie).statusCode());
        String file = java.nio.file.Files.readString(folder.resolve("tokens.jsonl"));
        assertTrue(file.contains("pbkdf2-sha512$210000$") && !file.contains("horse"), file);
    }

    private HttpResponse<String> signIn(String name, String password) throws IOException {
        return Collectors.post(collector, "/session", "{\"name\":\"" + name + "\",\"password\":\"" + password + "\"}");
    }

    private HttpResponse<String> withCookie(String method, String path, String cookie) throws IOException {
        return Collectors.send(HttpRequest.newBuilder(collector.address().resolve(path))
                .header("Cookie", cookie)
                .method(
                        method,
                        HttpRequest.BodyPublishers.ofString(
                                QuestionJson.of(Question.all().newest(1)))));
    }

    @Test
    void itIsReady() throws IOException {
        assertEquals("{\"status\":\"ready\"}", send("GET", "/ready", reader, "").body());
    }
}
