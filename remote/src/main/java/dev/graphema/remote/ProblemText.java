package dev.graphema.remote;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonToken;
import java.io.IOException;

/** Reads the explanation of a problem document (RFC 9457). */
final class ProblemText {
    private static final JsonFactory JSON = new JsonFactory();

    private ProblemText() {}

    /** Returns the description in the document, or the meaning of the status if there is none. */
    static String of(byte[] body, int status) {
        String detail = null;
        try (JsonParser json = JSON.createParser(body)) {
            json.nextToken();
            while (json.nextToken() == JsonToken.FIELD_NAME) {
                String name = json.currentName();
                json.nextToken();
                if (name.equals("detail")) {
                    detail = json.getValueAsString();
                }
                json.skipChildren();
            }
        } catch (IOException e) {
            detail = null; // whoever answers is no collector
        }
        return detail == null ? unexplained(status) : detail;
    }

    private static String unexplained(int status) {
        return switch (status) {
            case 401, 403 -> "the token is not accepted";
            case 404 -> "there is no collector at this address";
            default -> "no explanation was given";
        };
    }
}
