package dev.graphema.collector.access;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonGenerator;
import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonToken;
import dev.graphema.condition.Condition;
import dev.graphema.condition.ConditionException;
import java.io.IOException;
import java.io.StringWriter;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.DateTimeException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;

/** Tokens as lines of JSON. */
final class TokenJson {
    private static final JsonFactory JSON = new JsonFactory();

    private TokenJson() {}

    static String of(Token token) {
        StringWriter text = new StringWriter();
        try (JsonGenerator json = JSON.createGenerator(text)) {
            json.writeStartObject();
            json.writeStringField("name", token.name());
            json.writeStringField("role", token.role().name().toLowerCase(Locale.ROOT));
            json.writeStringField("hash", token.hash());
            json.writeStringField("created", token.created().toString());
            if (token.expires() != null) {
                json.writeStringField("expires", token.expires().toString());
            }
            if (!token.when().isEverything()) {
                json.writeStringField("when", token.when().toString());
            }
            if (token.environment() != null) {
                json.writeStringField("environment", token.environment());
            }
            if (!token.hidden().isEmpty()) {
                json.writeStringField("hidden", String.join(",", token.hidden()));
            }
            if (!token.pseudonyms().isEmpty()) {
                json.writeStringField("pseudonyms", String.join(",", token.pseudonyms()));
            }
            json.writeEndObject();
        } catch (IOException e) {
            throw new UncheckedIOException(e); // a string has no errors
        }
        return text.toString();
    }

    static List<Token> read(Path file) throws IOException {
        List<Token> tokens = new ArrayList<>();
        int number = 0;
        for (String line : Files.readAllLines(file)) {
            number++;
            if (line.isBlank()) {
                continue;
            }
            try {
                tokens.add(token(line));
            } catch (IOException | DateTimeException | IllegalArgumentException | ConditionException e) {
                throw new IOException(
                        file + ":" + number + " is no token: " + e.getMessage()
                                + "; nobody is let in before it is corrected",
                        e);
            }
        }
        return tokens;
    }

    private static Token token(String line) throws IOException {
        Map<String, String> texts = new HashMap<>();
        try (JsonParser json = JSON.createParser(line)) {
            if (json.nextToken() != JsonToken.START_OBJECT) {
                throw new IOException("expected a JSON object");
            }
            while (json.nextToken() == JsonToken.FIELD_NAME) {
                String name = json.currentName();
                if (json.nextToken() != JsonToken.VALUE_STRING) {
                    throw new IOException("\"" + name + "\": expected a text");
                }
                texts.put(name, json.getText());
            }
        }
        for (String name : List.of("name", "role", "hash", "created")) {
            if (!texts.containsKey(name)) {
                throw new IOException("\"" + name + "\" is missing");
            }
        }
        return new Token(
                texts.get("name"),
                Role.valueOf(texts.get("role").toUpperCase(Locale.ROOT)),
                texts.get("hash"),
                Instant.parse(texts.get("created")),
                texts.containsKey("expires") ? Instant.parse(texts.get("expires")) : null,
                texts.get("environment"),
                texts.containsKey("when") ? Condition.parse(texts.get("when")) : Condition.EVERYTHING,
                names(texts.get("hidden")),
                names(texts.get("pseudonyms")));
    }

    private static List<String> names(String list) {
        return list == null ? List.of() : List.of(list.split(","));
    }
}
