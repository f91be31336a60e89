package dev.graphema.delivery;

import dev.graphema.batch.BatchDivision;
import dev.graphema.batch.BatchSink;
import dev.graphema.batch.EventBatch;
import dev.graphema.batch.Transmitter;
import dev.graphema.format.Format;
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

/**
 * Posts batches of lines to an address. Any 2xx is success. After 408, 429 and 5xx, or without an answer, the same
 * events are sent again later. A batch that is too large (413) or not accepted (400, 422) is divided until only the
 * events that cause it remain, which are lost. Any other answer indicates wrong settings: events wait until they are
 * corrected.
 */
public final class HttpKind implements SinkKind {
    public static final Option<URI> URL =
            HttpPost.address("url", "https://logs.example/in").required().meaning("the address of the receiver");
    public static final Option<String> TOKEN = HttpPost.TOKEN;
    public static final Option<Map<String, String>> HEADERS = HttpPost.HEADERS;
    public static final Option<Boolean> GZIP = HttpPost.GZIP;
    public static final Option<Duration> TIMEOUT = HttpPost.TIMEOUT;
    public static final Option<String> CONTENT_TYPE = Option.text("content-type", "a media type")
            .standard("application/x-ndjson")
            .meaning("the media type of the body");

    @Override
    public String name() {
        return "http";
    }

    @Override
    public String meaning() {
        return "posts batches of lines to an address, by HTTP or HTTPS";
    }

    @Override
    public List<Option<?>> options() {
        List<Option<?>> options = new ArrayList<>(List.of(URL, CONTENT_TYPE));
        options.addAll(HttpPost.OPTIONS);
        options.addAll(BatchSink.OPTIONS);
        return options;
    }

    @Override
    public String usualFormat() {
        return "json";
    }

    @Override
    public boolean mayRepeat() {
        return true;
    }

    @Override
    public Sink open(Options options, SinkContext context) throws IOException {
        HttpPost post = new HttpPost(options.get(URL), options.get(CONTENT_TYPE), options, InstantSource.system());
        return BatchSink.open(new Lines(post, context.format()), options, context);
    }

    @Override
    public String toString() {
        return name();
    }

    /** Sends events as lines. */
    private record Lines(HttpPost post, Format format) implements Transmitter {
        @Override
        public void send(EventBatch events) throws IOException {
            BatchDivision.send(events, this::attempt);
        }

        private void attempt(EventBatch events) throws IOException {
            Utf8Buffer body = new Utf8Buffer(events.size() * 400);
            for (int i = 0; i < events.size(); i++) {
                format.write(events.get(i), body);
            }
            HttpPost.Answer answer = post.post(body.view());
            if (!answer.isSuccess()) {
                notTaken(answer, events);
            }
        }

        private void notTaken(HttpPost.Answer answer, EventBatch events) throws IOException {
            int status = answer.status();
            if (status == 413 || status == 400 || status == 422) {
                throw new RefusedException("status " + status, events.size());
            } else if (status == 408 || status == 429 || status >= 500) {
                throw post.later(answer);
            } else {
                throw new IOException("status " + status + " from " + post
                        + ": expected 200 or the like; check url, token and headers");
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
