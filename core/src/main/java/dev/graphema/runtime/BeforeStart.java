package dev.graphema.runtime;

import dev.graphema.event.Draft;
import dev.graphema.event.Level;
import dev.graphema.format.Columns;
import dev.graphema.redaction.Detectors;
import dev.graphema.redaction.Redactor;
import dev.graphema.terminal.Paint;
import dev.graphema.text.Utf8Buffer;
import java.io.PrintStream;
import java.time.ZoneId;
import java.util.List;
import java.util.concurrent.atomic.AtomicLong;

/**
 * Receives events while no runtime is started: those at level warn and above are printed on standard error, redacted by
 * all built-in detectors, so that problems before the settings are read are visible. The first one below that level is
 * reported, because the program probably forgot to start a runtime.
 */
public final class BeforeStart implements Receiver {
    /** The level from which events are printed. */
    static final Level THRESHOLD = Level.WARN;

    /** The level from which events are counted. */
    static final Level COUNTED = Level.INFO;

    private final PrintStream stream;
    private final AtomicLong refused = new AtomicLong();
    private final Redactor redactor = new Redactor(
            List.copyOf(Detectors.usual().stream().map(Detectors::named).toList()));

    public BeforeStart(PrintStream stream) {
        this.stream = stream;
    }

    @Override
    public void accept(Draft draft, long admittedBy) {
        if (!draft.level().passes(THRESHOLD)) {
            if (refused.getAndIncrement() == 0) {
                stream.println("graphema: an event was emitted, but Graphema is not started: events below "
                        + THRESHOLD.text() + " are dropped. Call Graphema.start() at the beginning of the program");
            }
            return;
        }
        redactor.redact(draft);
        Utf8Buffer buffer = new Utf8Buffer(256);
        Columns.of(ZoneId.systemDefault(), 0, Paint.NONE).write(draft.finish(), buffer);
        stream.print(buffer);
        stream.flush();
    }

    /** Reports how many events were dropped; called when a runtime is started. */
    void ended() {
        long dropped = refused.getAndSet(0);
        if (dropped > 0) {
            stream.println("graphema: started; " + dropped + (dropped == 1 ? " event" : " events") + " below "
                    + THRESHOLD.text() + " before the start " + (dropped == 1 ? "was" : "were") + " dropped");
        }
    }

    @Override
    public void refuse(Throwable problem) {
        stream.println("graphema: an event before the start could not be made ("
                + problem.getClass().getName() + ")");
    }
}
