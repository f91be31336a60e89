package dev.graphema.collector.question;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.collector.access.Role;
import dev.graphema.collector.audit.Recorder;
import dev.graphema.collector.http.Endpoint;
import dev.graphema.collector.http.Requests;
import dev.graphema.collector.http.Server;
import dev.graphema.collector.permission.Caller;
import dev.graphema.event.Draft;
import dev.graphema.event.Event;
import dev.graphema.query.row.Projection;
import dev.graphema.query.source.CoverageBuilder;
import dev.graphema.query.source.EventRows;
import dev.graphema.query.source.EventSource;
import dev.graphema.query.source.ForwardingRows;
import dev.graphema.query.source.Part;
import dev.graphema.query.source.Plan;
import dev.graphema.query.source.Rows;
import dev.graphema.query.source.Scan;
import java.io.IOException;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.util.EnumSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.function.Supplier;
import java.util.stream.IntStream;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** An answer that cannot be completed must not look complete. */
class QuestionsTest {
    /** More than the server keeps before it begins to answer. */
    private static final int EVENTS = 2_000;

    private final List<String> problems = new CopyOnWriteArrayList<>();

    /** Has events of which the last one cannot be read for lack of memory. */
    private static final class ShortOfMemory implements EventSource, Part {
        @Override
        public Set<Capability> capabilities() {
            return EnumSet.of(Capability.ORDER, Capability.REPEATED_READING);
        }

        @Override
        public Plan plan(Scan scan, CoverageBuilder coverage) {
            return Plan.scanning(scan, List.of(this));
        }

        @Override
        public Rows open(CoverageBuilder coverage) {
            List<Event> events = IntStream.range(0, EVENTS)
                    .mapToObj(i -> Draft.ofWritten(0)
                            .weight(1)
                            .time(i)
                            .message("event " + i + " of many")
                            .finish())
                    .toList();
            return new ForwardingRows(new EventRows(events.iterator(), 0, Projection.ALL, coverage)) {
                @Override
                public Event event() {
                    return complete(super.event());
                }

                @Override
                public Supplier<Event> keep() {
                    Event kept = super.event();
                    return () -> complete(kept);
                }
            };
        }

        private static Event complete(Event event) {
            if (event.epochNanos() == EVENTS - 1) {
                throw new OutOfMemoryError("made up");
            }
            return event;
        }

        @Override
        public String name() {
            return "events";
        }
    }

    @ParameterizedTest
    @ValueSource(strings = {"/questions", "/questions/part", "/questions/events"})
    void whatIsCutOffDoesNotLookComplete(String path) throws IOException {
        Questions questions = new Questions(
                new ShortOfMemory(),
                new ShortOfMemory(),
                (role, call) -> new Caller(null, null),
                Role.READ,
                Recorder.NONE);
        Map<String, Endpoint> endpoints = Map.of(
                "POST /questions", questions::answer,
                "POST /questions/part", questions::part,
                "POST /questions/events", questions::events);
        try (Server server =
                Server.start(new Server.Listening("127.0.0.1", 0, null), endpoints, new Requests(), problems::add)) {
            HttpRequest request = HttpRequest.newBuilder(server.address().resolve(path))
                    .header("Content-Type", "application/json")
                    .POST(HttpRequest.BodyPublishers.ofString(
                            "{\"ask\":{\"kind\":\"events\",\"order\":\"oldest\",\"limit\":100000}}"))
                    .build();
            assertThrows(
                    IOException.class,
                    () -> HttpClient.newHttpClient().send(request, HttpResponse.BodyHandlers.ofString()));
        }
        assertEquals(1, problems.size(), problems.toString());
        assertTrue(problems.get(0).startsWith("the answer to POST " + path + " was cut off: "), problems.get(0));
    }
}
