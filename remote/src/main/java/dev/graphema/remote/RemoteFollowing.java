package dev.graphema.remote;

import dev.graphema.condition.Condition;
import dev.graphema.event.Event;
import dev.graphema.query.answer.Coverage;
import dev.graphema.query.partial.EventLines;
import dev.graphema.query.source.Control;
import dev.graphema.query.source.CoverageBuilder;
import dev.graphema.query.source.Following;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.nio.charset.StandardCharsets;

/** The events of a collector as they arrive, by server-sent events (HTML standard, section 9.2). For one thread. */
final class RemoteFollowing implements Following {
    private static final String DATA = "data:";
    private static final String EVENT = "event:";
    private static final String MISSED = "missed";

    private final String name;
    private final BufferedReader stream;
    private final EventLines lines = WrittenEvents.reader();
    private final CoverageBuilder coverage = new CoverageBuilder(Control.NONE);

    RemoteFollowing(CollectorClient client, Condition where) throws IOException {
        this.name = client.toString();
        this.stream = new BufferedReader(new InputStreamReader(client.live(where), StandardCharsets.UTF_8));
    }

    @Override
    public boolean poll(Listener listener) throws IOException {
        String kind = "";
        StringBuilder data = new StringBuilder();
        String line;
        while ((line = stream.readLine()) != null && !line.isEmpty()) {
            if (line.startsWith(DATA)) {
                data.append(value(line, DATA));
            } else if (line.startsWith(EVENT)) {
                kind = value(line, EVENT);
            }
        }
        if (kind.equals(MISSED)) {
            coverage.failed(name, data + " events were missed, because they came faster than they were read");
        } else if (data.length() > 0) {
            Event event = lines.read(data.toString(), 0);
            if (event != null) {
                coverage.event();
                listener.event(event);
            }
        }
        return line != null;
    }

    private static String value(String line, String name) {
        String value = line.substring(name.length());
        return value.startsWith(" ") ? value.substring(1) : value;
    }

    @Override
    public Coverage coverage() {
        return coverage.coverage();
    }

    @Override
    public void close() throws IOException {
        stream.close();
    }
}
