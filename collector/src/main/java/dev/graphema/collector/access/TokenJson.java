package dev.graphema.collector.access;

import dev.graphema.collector.text.FlatJson;
import dev.graphema.condition.Condition;
import dev.graphema.condition.ConditionException;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.DateTimeException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;

/** Tokens as lines of JSON. */
final class TokenJson {
    private TokenJson() {}

    static String of(Token token) {
        Map<String, String> members = new LinkedHashMap<>();
        members.put("name", token.name());
        members.put("role", token.role().name().toLowerCase(Locale.ROOT));
        members.put("hash", token.hash());
        members.put("created", token.created().toString());
        members.put("expires", token.expires() == null ? null : token.expires().toString());
        members.put("environment", token.environment());
        members.put("when", token.when().isEverything() ? null : token.when().toString());
        members.put("hidden", token.hidden().isEmpty() ? null : String.join(",", token.hidden()));
        members.put("pseudonyms", token.pseudonyms().isEmpty() ? null : String.join(",", token.pseudonyms()));
        return FlatJson.of(members);
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
                tokens.add(token(FlatJson.read(line.getBytes(StandardCharsets.UTF_8))));
            } catch (IOException | DateTimeException | IllegalArgumentException | ConditionException e) {
                throw new IOException(
                        file + ":" + number + " is no token: " + e.getMessage()
                                + "; nobody is let in before it is corrected",
                        e);
            }
        }
        return tokens;
    }

    private static Token token(Map<String, String> texts) throws IOException {
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
