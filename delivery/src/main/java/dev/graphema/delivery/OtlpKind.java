package dev.graphema.delivery;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonToken;
import dev.graphema.event.Event;
import dev.graphema.format.OtlpJson;
import dev.graphema.option.Option;
import dev.graphema.option.Options;
import dev.graphema.sink.BatchSink;
import dev.graphema.sink.RefusedException;
import dev.graphema.sink.Sink;
import dev.graphema.sink.SinkContext;
import dev.graphema.sink.SinkKind;
import dev.graphema.sink.Transmitter;
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
 * Sends log records by the OpenTelemetry protocol over HTTP in its JSON encoding (OTLP 1.x). As the standard defines,
 * 429, 502, 503 and 504 are sent again after the pause that the receiver requests; any other answer except success is
 * final; records that a partial success rejects are not sent again.
 */
public final class OtlpKind implements SinkKind {
    public static final Option<URI> URL = HttpPost.address("http://localhost:4318/v1/logs")
            .standard(URI.create("http://localhost:4318/v1/logs"))
            .meaning("the address of the receiver; by the standard, its path ends with `/v1/logs`");
    public static final Option<String> TOKEN = HttpPost.TOKEN;
    public static final Option<Map<String, String>> HEADERS = HttpPost.HEADERS;
    public static final Option<Boolean> GZIP = HttpPost.GZIP;
    public static final Option<Duration> TIMEOUT = HttpPost.TIMEOUT;

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
        List<Option<?>> options = new ArrayList<>(List.of(URL));
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
        HttpPost post = new HttpPost(options.get(URL), "application/json", options, InstantSource.system());
        return BatchSink.open(new Requests(post, new OtlpJson()), options, context);
    }

    @Override
    public String toString() {
        return name();
    }

    private record Requests(HttpPost post, OtlpJson json) implements Transmitter {
        @Override
        public void send(List<Event> events) throws IOException {
            Utf8Buffer body = new Utf8Buffer(events.size() * 600);
            json.request(events, body);
            HttpPost.Answer answer = post.post(body.view());
            if (answer.isSuccess()) {
                checkPartialSuccess(answer, events.size());
            } else if (TRIED_AGAIN.contains(answer.status())) {
                throw post.later(answer);
            } else {
                throw new RefusedException(
                        "status " + answer.status() + " from " + post + "; check url, token and headers",
                        events.size());
            }
        }

        private static void checkPartialSuccess(HttpPost.Answer answer, int sent) throws RefusedException {
            long rejected = 0;
            String reason = "";
            try (JsonParser parser = new JsonFactory().createParser(answer.body())) {
                for (JsonToken token = parser.nextToken(); token != null; token = parser.nextToken()) {
                    if (token == JsonToken.FIELD_NAME && parser.currentName().equals("rejectedLogRecords")) {
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
            post.close();
        }

        @Override
        public String toString() {
            return post.toString();
        }
    }
}
