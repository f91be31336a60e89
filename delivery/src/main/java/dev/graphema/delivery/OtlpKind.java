package dev.graphema.delivery;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonToken;
import dev.graphema.batch.BatchSink;
import dev.graphema.batch.EventBatch;
import dev.graphema.batch.Transmitter;
import dev.graphema.format.OtlpJson;
import dev.graphema.option.Option;
import dev.graphema.option.Options;
import dev.graphema.sink.RefusedException;
import dev.graphema.sink.Sink;
import dev.graphema.sink.SinkContext;
import dev.graphema.sink.SinkKind;
import dev.graphema.text.Utf8Buffer;
import java.io.IOException;
import java.net.URI;
import java.time.Duration;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * Sends log records, and ended operations as spans, by the OpenTelemetry protocol over HTTP in its JSON encoding (OTLP 1.x). As the standard defines,
 * 429, 502, 503 and 504 are sent again after the pause that the receiver requests; any other answer except success is
 * final; records that a partial success rejects are not sent again.
 */
public final class OtlpKind implements SinkKind {
    public static final Option<URI> URL = HttpPost.address("url", "http://localhost:4318/v1/logs")
            .standard(URI.create("http://localhost:4318/v1/logs"))
            .meaning("the address of the receiver; by the standard, its path ends with `/v1/logs`");
    public static final Option<URI> TRACES = HttpPost.address("traces", "http://localhost:4318/v1/traces")
            .meaning("the address of the receiver of traces, to which ended operations are also sent as spans; by the"
                    + " standard, its path ends with `/v1/traces`");
    public static final Option<String> TOKEN = HttpPost.TOKEN;
    public static final Option<Map<String, String>> HEADERS = HttpPost.HEADERS;
    public static final Option<Boolean> GZIP = HttpPost.GZIP;
    public static final Option<Duration> TIMEOUT = HttpPost.TIMEOUT;

    private static final Set<String> REJECTED = Set.of("rejectedLogRecords", "rejectedSpans");
    private static final Set<Integer> TRIED_AGAIN = Set.of(429, 502, 503, 504);

    @Override
    public String name() {
        return "otlp";
    }

    @Override
    public String meaning() {
        return "log records by the OpenTelemetry protocol over HTTP, in JSON";
    }

    @Override
    public List<Option<?>> options() {
        List<Option<?>> options = new ArrayList<>(List.of(URL, TRACES));
        options.addAll(HttpPost.OPTIONS);
        options.addAll(BatchSink.OPTIONS);
        return options;
    }

    @Override
    public boolean mayRepeat() {
        return true;
    }

    @Override
    public Sink open(Options options, SinkContext context) throws IOException {
        HttpPost logs = new HttpPost(options.get(URL), "application/json", options, InstantSource.system());
        URI address = options.get(TRACES);
        HttpPost traces =
                address == null ? null : new HttpPost(address, "application/json", options, InstantSource.system());
        return BatchSink.open(new Requests(logs, traces, new OtlpJson()), options, context);
    }

    @Override
    public String toString() {
        return name();
    }

    /** @param traces null if operations are not sent as spans */
    private record Requests(HttpPost logs, HttpPost traces, OtlpJson json) implements Transmitter {
        /** Sends spans first: if the log records must be sent again, the spans have the same ids and are recognised. */
        @Override
        public void send(EventBatch events) throws IOException {
            RefusedException refused = null;
            Utf8Buffer body = new Utf8Buffer(events.size() * 600);
            int operations = traces == null ? 0 : json.spans(events.size(), events::get, body);
            if (operations > 0) {
                try {
                    send(traces, body, operations);
                } catch (RefusedException e) {
                    refused = e; // the log records may be accepted
                }
                body.clear();
            }
            json.request(events.size(), events::get, body);
            send(logs, body, events.size());
            if (refused != null) {
                throw refused;
            }
        }

        private static void send(HttpPost post, Utf8Buffer body, int sent) throws IOException {
            HttpPost.Answer answer = post.post(body.view());
            if (answer.isSuccess()) {
                checkPartialSuccess(answer, sent);
            } else if (TRIED_AGAIN.contains(answer.status())) {
                throw post.later(answer);
            } else {
                throw new RefusedException(
                        "status " + answer.status() + " from " + post + "; check url, token and headers", sent);
            }
        }

        private static void checkPartialSuccess(HttpPost.Answer answer, int sent) throws RefusedException {
            long rejected = 0;
            String reason = "";
            try (JsonParser parser = new JsonFactory().createParser(answer.body())) {
                for (JsonToken token = parser.nextToken(); token != null; token = parser.nextToken()) {
                    if (token == JsonToken.FIELD_NAME && REJECTED.contains(parser.currentName())) {
                        parser.nextToken();
                        rejected = parser.getValueAsLong(); // a text of digits, or a number: the encoding allows both
                    } else if (token == JsonToken.FIELD_NAME
                            && parser.currentName().equals("errorMessage")) {
                        parser.nextToken();
                        reason = parser.getValueAsString("");
                    }
                }
            } catch (IOException e) {
                return; // success with another body is still success
            }
            if (rejected > 0) {
                throw new RefusedException(
                        "partial success" + (reason.isEmpty() ? "" : " (" + reason + ")"), Math.min(rejected, sent));
            }
        }

        @Override
        public void close() {
            logs.close();
            if (traces != null) {
                traces.close();
            }
        }

        @Override
        public String toString() {
            return logs.toString();
        }
    }
}
