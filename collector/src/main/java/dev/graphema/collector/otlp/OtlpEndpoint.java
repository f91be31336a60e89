package dev.graphema.collector.otlp;

import com.google.protobuf.InvalidProtocolBufferException;
import com.google.protobuf.Message;
import dev.graphema.collector.http.Call;
import dev.graphema.collector.http.Endpoint;
import dev.graphema.collector.http.Problem;
import dev.graphema.collector.ingest.Intake;
import dev.graphema.collector.ingest.Origin;
import dev.graphema.collector.ingest.Senders;
import dev.graphema.event.Draft;
import dev.graphema.format.JsonLines;
import dev.graphema.text.Utf8Buffer;
import io.opentelemetry.proto.collector.logs.v1.ExportLogsServiceRequest;
import io.opentelemetry.proto.collector.trace.v1.ExportTraceServiceRequest;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.util.List;
import java.util.function.Function;
import java.util.function.Supplier;

/** Receives requests of the OpenTelemetry protocol. What is acknowledged is on the disk. */
public final class OtlpEndpoint implements Endpoint {
    private static final String JSON = "application/json";
    private static final String PROTOBUF = "application/x-protobuf";
    private static final int USUAL_LINE = 400;

    private final Senders senders;
    private final Intake intake;
    private final Supplier<Message.Builder> request;
    private final Function<Message, List<Draft>> events;

    private OtlpEndpoint(
            Senders senders, Intake intake, Supplier<Message.Builder> request, Function<Message, List<Draft>> events) {
        this.senders = senders;
        this.intake = intake;
        this.request = request;
        this.events = events;
    }

    /** Returns the receiver of log records. */
    public static OtlpEndpoint logs(Senders senders, Intake intake) {
        return new OtlpEndpoint(
                senders,
                intake,
                ExportLogsServiceRequest::newBuilder,
                message -> LogRecords.of((ExportLogsServiceRequest) message));
    }

    /** Returns the receiver of spans. */
    public static OtlpEndpoint traces(Senders senders, Intake intake) {
        return new OtlpEndpoint(
                senders,
                intake,
                ExportTraceServiceRequest::newBuilder,
                message -> Spans.of((ExportTraceServiceRequest) message));
    }

    @Override
    public void answer(Call call) throws Problem, IOException {
        Origin origin = senders.require(call);
        String type = call.mediaType();
        if (!type.equals(JSON) && !type.equals(PROTOBUF)) {
            throw new Problem(
                    415,
                    "The media type is not known",
                    "Content-Type is \"" + type + "\": expected " + PROTOBUF + " or " + JSON);
        }
        try {
            take(call.body(), type, origin);
            // The response of both signals, without a partial success, is an empty message.
            call.send(200, type, type.equals(JSON) ? "{}" : "");
        } catch (Problem e) {
            call.refuse(e, type, StatusMessage.of(e, type.equals(JSON)));
        }
    }

    private void take(byte[] body, String type, Origin origin) throws Problem {
        Message message = type.equals(JSON) ? json(body) : protobuf(body);
        List<Draft> drafts = events.apply(message);
        if (!drafts.isEmpty()) {
            intake.take(lines(drafts), origin);
        }
    }

    private Message json(byte[] body) throws Problem {
        Message.Builder builder = request.get();
        try {
            OtlpJsonReader.read(body, builder);
            return builder.build();
        } catch (IOException e) {
            throw damaged(e.getMessage());
        }
    }

    private Message protobuf(byte[] body) throws Problem {
        try {
            return request.get().mergeFrom(body).build();
        } catch (InvalidProtocolBufferException e) {
            throw damaged("it is no message of this kind: " + e.getMessage());
        }
    }

    private static Problem damaged(String what) {
        return new Problem(400, "The request cannot be read", what);
    }

    private static byte[] lines(List<Draft> drafts) {
        Utf8Buffer lines = new Utf8Buffer(drafts.size() * USUAL_LINE);
        JsonLines format = new JsonLines(true);
        for (Draft draft : drafts) {
            format.write(draft.finish(), lines);
        }
        ByteBuffer view = lines.view();
        byte[] bytes = new byte[view.remaining()];
        view.get(bytes);
        return bytes;
    }
}
