package dev.graphema.lines.json;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonToken;
import java.io.IOException;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Random;

/** Lines as another program may write them, to which the order of members means nothing. */
final class MemberOrder {
    private static final JsonFactory JSON = new JsonFactory();

    private MemberOrder() {}

    /** Returns a line with the same members after time and level, in any order. */
    static String other(String line, Random random) throws IOException {
        List<String> members = new ArrayList<>();
        try (JsonParser json = JSON.createParser(line)) {
            json.nextToken();
            int from = (int) json.currentLocation().getCharOffset();
            while (json.nextToken() != JsonToken.END_OBJECT) {
                json.nextToken();
                json.skipChildren();
                if (json.currentToken() == JsonToken.VALUE_STRING) {
                    json.getText(); // moves to its end
                }
                int to = (int) json.currentLocation().getCharOffset();
                members.add(line.substring(from, to).replaceFirst("^,", ""));
                from = to;
            }
        }
        Collections.shuffle(members.subList(2, members.size()), random);
        return "{" + String.join(",", members) + "}";
    }
}
