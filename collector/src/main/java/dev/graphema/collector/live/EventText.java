package dev.graphema.collector.live;

import dev.graphema.event.Event;
import dev.graphema.format.JsonLines;
import dev.graphema.text.Utf8Buffer;
import java.nio.charset.StandardCharsets;

/** An event as a server-sent event, made when the first reader wants it. For one thread. */
final class EventText {
    private final Event event;
    private byte[] bytes;

    EventText(Event event) {
        this.event = event;
    }

    byte[] bytes() {
        if (bytes == null) {
            Utf8Buffer line = new Utf8Buffer(512);
            new JsonLines().write(event, line);
            bytes = ("data: " + line.toString().stripTrailing() + "\n\n").getBytes(StandardCharsets.UTF_8);
        }
        return bytes;
    }
}
