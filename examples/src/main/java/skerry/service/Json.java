package skerry.service;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ObjectNode;
import com.sun.net.httpserver.HttpExchange;
import java.io.IOException;

/** Reads and writes JSON bodies. */
public final class Json {
    private static final ObjectMapper MAPPER = new ObjectMapper();

    private Json() {}

    public static ObjectNode object() {
        return MAPPER.createObjectNode();
    }

    /** Returns the body of the request as an object. */
    public static ObjectNode read(HttpExchange exchange) throws IOException {
        return parse(new String(exchange.getRequestBody().readAllBytes(), java.nio.charset.StandardCharsets.UTF_8));
    }

    public static ObjectNode parse(String text) throws JsonProcessingException {
        return MAPPER.readValue(text, ObjectNode.class);
    }

    /** Answers with a status and an object. */
    public static void answer(HttpExchange exchange, int status, ObjectNode body) throws IOException {
        byte[] bytes = MAPPER.writeValueAsBytes(body);
        exchange.getResponseHeaders().set("Content-Type", "application/json");
        exchange.sendResponseHeaders(status, bytes.length);
        exchange.getResponseBody().write(bytes);
    }

    /** Answers with a status and an object that contains the reason. */
    public static void refuse(HttpExchange exchange, int status, String reason) throws IOException {
        answer(exchange, status, object().put("reason", reason));
    }
}
