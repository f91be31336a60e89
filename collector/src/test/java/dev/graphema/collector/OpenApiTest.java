package dev.graphema.collector;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonToken;
import dev.graphema.collector.audit.Audit;
import dev.graphema.query.Question;
import dev.graphema.query.json.QuestionJson;
import dev.graphema.segments.store.Store;
import dev.graphema.segments.store.StoreOptions;
import java.io.IOException;
import java.net.http.HttpRequest;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.TreeSet;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The description of the API agrees with what the server does. */
class OpenApiTest {
    private static final String QUESTION = QuestionJson.of(Question.all().newest(1));

    /** For each operation, in this order: the body, and what follows the path. */
    private static final Map<String, String[]> REQUESTS = new LinkedHashMap<>();

    static {
        REQUESTS.put("POST /lines", new String[] {"{\"msg\":\"a\"}", ""});
        REQUESTS.put("POST /v1/logs", new String[] {"{}", ""});
        REQUESTS.put("POST /v1/traces", new String[] {"{}", ""});
        for (String base : new String[] {"", "/audit"}) {
            for (String each : new String[] {"", "/part", "/events"}) {
                REQUESTS.put("POST " + base + "/questions" + each, new String[] {QUESTION, ""});
            }
        }
        REQUESTS.put("POST /kept", new String[] {QUESTION, "?name=a"});
        REQUESTS.put("GET /kept", new String[] {"", ""});
        REQUESTS.put("DELETE /kept", new String[] {"", "?name=a"});
        REQUESTS.put("POST /boards", new String[] {"parts: [{question: level >= error, show: count}]", "?name=a"});
        REQUESTS.put("GET /boards", new String[] {"", ""});
        REQUESTS.put("DELETE /boards", new String[] {"", "?name=a"});
        REQUESTS.put("POST /questions/reading", new String[] {"level >= error --last 2h", "?zone=Europe/Oslo"});
        REQUESTS.put("GET /", new String[] {"", ""});
        REQUESTS.put("GET /page/", new String[] {"", "app.js"});
        REQUESTS.put("GET /session", new String[] {"", ""});
        REQUESTS.put("POST /alerts/try", new String[] {"", "?name=none&last=7d"});
        REQUESTS.put("GET /alerts", new String[] {"", ""});
        REQUESTS.put("POST /alerts/mute", new String[] {"", "?name=none&for=2h"});
        REQUESTS.put("GET /health", new String[] {"", ""});
        REQUESTS.put("GET /ready", new String[] {"", ""});
        REQUESTS.put("GET /metrics", new String[] {"", ""});
        REQUESTS.put("GET /openapi.json", new String[] {"", ""});
        REQUESTS.put("GET /live", new String[] {"", "?where=level+%3E"});
        REQUESTS.put("DELETE /session", new String[] {"", ""});
        REQUESTS.put("POST /session", new String[] {"{}", ""});
        REQUESTS.put("GET /tokens", new String[] {"", ""});
        REQUESTS.put("DELETE /tokens", new String[] {"", "?name=none"});
        REQUESTS.put("POST /tokens", new String[] {"{\"name\":\"a\"}", ""});
    }

    @TempDir
    private Path folder;

    @Test
    void everyEndpointIsDescribedAndNoOther() throws IOException {
        CollectorOptions options = CollectorOptions.usual(folder, problem -> {});
        try (Store store = Store.open(folder, StoreOptions.usual(problem -> {}));
                Audit audit = new Audit(folder, problem -> {})) {
            Endpoints endpoints = new Endpoints(options, false, store, audit, () -> "");
            assertEquals(
                    new TreeSet<>(endpoints.all().keySet()),
                    new TreeSet<>(operations(description()).keySet()));
            endpoints.live().close();
            endpoints.alerts().close();
        }
        assertEquals(new TreeSet<>(operations(description()).keySet()), new TreeSet<>(REQUESTS.keySet()));
    }

    @Test
    void everyAnswerHasADescribedStatusTypeAndForm() throws IOException {
        Map<String, Object> document = description();
        Map<String, Map<String, Object>> operations = operations(document);
        try (Collector collector = Collectors.start(folder)) {
            for (Map.Entry<String, String[]> each : REQUESTS.entrySet()) {
                String[] request = each.getKey().split(" ");
                HttpResponse<String> answer = Collectors.send(
                        HttpRequest.newBuilder(collector.address().resolve(request[1] + each.getValue()[1]))
                                .header("Content-Type", "application/json")
                                .method(request[0], BodyPublishers.ofString(each.getValue()[0])));
                Map<String, Object> responses =
                        map(operations.get(each.getKey()).get("responses"));
                String status = Integer.toString(answer.statusCode());
                assertTrue(responses.containsKey(status), each.getKey() + " answers " + status + ": " + answer.body());
                Map<String, Object> content = map(map(responses.get(status)).get("content"));
                String type =
                        answer.headers().firstValue("Content-Type").orElse("").split(";")[0];
                assertTrue(content.containsKey(type), each.getKey() + " answers with " + type);
                if (type.endsWith("json")) {
                    Object schema = map(content.get(type)).get("schema");
                    check(each.getKey(), map(schema), parsed(answer.body()), document);
                }
            }
        }
    }

    private static void check(String place, Map<String, Object> schema, Object value, Map<String, Object> document) {
        if (schema.get("$ref") instanceof String reference) {
            Map<String, Object> schemas = map(map(document.get("components")).get("schemas"));
            check(place, map(schemas.get(reference.substring(reference.lastIndexOf('/') + 1))), value, document);
            return;
        }
        if (schema.isEmpty()) {
            return; // anything
        }
        switch ((String) schema.get("type")) {
            case "object" -> {
                Map<String, Object> members = map(value);
                Map<String, Object> properties = map(schema.getOrDefault("properties", Map.of()));
                for (Object required : (List<?>) schema.getOrDefault("required", List.of())) {
                    assertTrue(members.containsKey(required), place + " has no " + required + ": " + members);
                }
                members.forEach((name, member) -> {
                    assertTrue(properties.isEmpty() || properties.containsKey(name), place + " has " + name);
                    if (properties.containsKey(name)) {
                        check(place + "." + name, map(properties.get(name)), member, document);
                    }
                });
            }
            case "array" -> ((List<?>) value).forEach(each -> check(place, map(schema.get("items")), each, document));
            case "integer" -> assertTrue(value instanceof Long, place + ": " + value);
            default -> assertTrue(value instanceof String, place + ": " + value);
        }
    }

    private static Map<String, Map<String, Object>> operations(Map<String, Object> document) {
        Map<String, Map<String, Object>> operations = new LinkedHashMap<>();
        map(document.get("paths"))
                .forEach((path, methods) -> map(methods)
                        .forEach((method, operation) -> operations.put(
                                method.toUpperCase(Locale.ROOT) + " " + path.replace("{file}", ""), map(operation))));
        return operations;
    }

    private static Map<String, Object> description() throws IOException {
        return map(parsed(
                new String(OpenApiTest.class.getResourceAsStream("openapi.json").readAllBytes())));
    }

    @SuppressWarnings("unchecked")
    private static Map<String, Object> map(Object value) {
        return (Map<String, Object>) value;
    }

    private static Object parsed(String text) throws IOException {
        try (JsonParser json = new JsonFactory().createParser(text)) {
            json.nextToken();
            return value(json);
        }
    }

    private static Object value(JsonParser json) throws IOException {
        switch (json.currentToken()) {
            case START_OBJECT:
                Map<String, Object> members = new LinkedHashMap<>();
                while (json.nextToken() == JsonToken.FIELD_NAME) {
                    String name = json.currentName();
                    json.nextToken();
                    members.put(name, value(json));
                }
                return members;
            case START_ARRAY:
                List<Object> elements = new ArrayList<>();
                while (json.nextToken() != JsonToken.END_ARRAY) {
                    elements.add(value(json));
                }
                return elements;
            case VALUE_NUMBER_INT:
                return json.getLongValue();
            case VALUE_NUMBER_FLOAT:
                return json.getDoubleValue();
            case VALUE_TRUE, VALUE_FALSE:
                return json.getBooleanValue();
            case VALUE_NULL:
                return null;
            default:
                return json.getText();
        }
    }
}
