package dev.graphema.collector.otlp;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonGenerator;
import com.google.protobuf.CodedOutputStream;
import dev.graphema.collector.http.Problem;
import java.io.ByteArrayOutputStream;
import java.io.IOException;

/** A problem as the message {@code google.rpc.Status}, which OTLP/HTTP prescribes: a code (1) and a message (2). */
final class StatusMessage {
    private static final JsonFactory JSON = new JsonFactory();
    private static final int INVALID_ARGUMENT = 3;
    private static final int RESOURCE_EXHAUSTED = 8;
    private static final int UNAVAILABLE = 14;
    private static final int MESSAGE_FIELD = 2;

    private StatusMessage() {}

    static byte[] of(Problem problem, boolean isJson) throws IOException {
        int code = switch (problem.status()) {
            case 429 -> RESOURCE_EXHAUSTED;
            case 503 -> UNAVAILABLE;
            default -> INVALID_ARGUMENT;
        };
        ByteArrayOutputStream bytes = new ByteArrayOutputStream();
        if (isJson) {
            try (JsonGenerator json = JSON.createGenerator(bytes)) {
                json.writeStartObject();
                json.writeNumberField("code", code);
                json.writeStringField("message", problem.getMessage());
                json.writeEndObject();
            }
        } else {
            CodedOutputStream output = CodedOutputStream.newInstance(bytes);
            output.writeInt32(1, code);
            output.writeString(MESSAGE_FIELD, problem.getMessage());
            output.flush();
        }
        return bytes.toByteArray();
    }
}
