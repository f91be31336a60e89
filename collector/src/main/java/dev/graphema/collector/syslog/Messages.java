package dev.graphema.collector.syslog;

import dev.graphema.collector.ingest.Intake;
import dev.graphema.collector.ingest.Origin;
import dev.graphema.collector.input.SyslogPort;
import dev.graphema.event.Draft;
import dev.graphema.event.Event;
import dev.graphema.lines.form.TextLine;
import dev.graphema.lines.shape.LineShape;
import dev.graphema.text.Times;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.TimeUnit;

/** The messages of one sender, from bytes to the store. For one thread. */
final class Messages {
    private static final long RETRY_MILLIS = 500;

    private final Intake intake;
    private final Origin origin;
    private final TextLine reader = new TextLine(LineShape.USUAL);
    private final List<Event> waiting = new ArrayList<>();

    Messages(Intake intake, SyslogPort port, String address, String environment) {
        this.intake = intake;
        this.origin = new Origin(
                port.source() == null ? address : port.source(),
                port.environment() == null ? environment : port.environment());
    }

    /** Adds a message, which may have several lines. */
    void add(byte[] message, int length) {
        int end = length;
        while (end > 0 && (message[end - 1] == '\n' || message[end - 1] == '\r' || message[end - 1] == 0)) {
            end--;
        }
        int first = 0;
        while (first < end && message[first] != '\n') {
            first++;
        }
        if (end > 0) {
            Draft draft = reader.read(message, 0, first, Times.now());
            String more = first < end ? new String(message, first + 1, end - first - 1, StandardCharsets.UTF_8) : "";
            waiting.add(reader.complete(draft, more));
        }
    }

    /** Stores what was added. If the disk does not accept it, the sender waits until it does. */
    void store() throws InterruptedException {
        while (!waiting.isEmpty()) {
            try {
                intake.take(waiting, origin);
                waiting.clear();
            } catch (IOException e) {
                TimeUnit.MILLISECONDS.sleep(RETRY_MILLIS); // the intake has reported it
            }
        }
    }
}
