package dev.graphema.runtime;

import dev.graphema.event.Draft;
import dev.graphema.event.Level;
import dev.graphema.format.Columns;
import dev.graphema.redaction.Redactor;
import dev.graphema.terminal.Paint;
import dev.graphema.text.Utf8Buffer;
import java.io.PrintStream;
import java.time.ZoneId;
import java.util.List;

/**
 * Receives events while no runtime is started: those at level warn and above are printed on standard error, redacted by
 * all built-in detectors, so that problems before the settings are read are visible.
 */
public final class BeforeStart implements Receiver {
    static final Level THRESHOLD = Level.WARN;

    private final PrintStream stream;
    private final Redactor redactor = new Redactor(List.copyOf(
            Redactor.usualDetectors().stream().map(Redactor::readyDetector).toList()));

    public BeforeStart(PrintStream stream) {
        this.stream = stream;
    }

    @Override
    public void accept(Draft draft, long admittedBy) {
        redactor.redact(draft);
        Utf8Buffer buffer = new Utf8Buffer(256);
        Columns.of(ZoneId.systemDefault(), 0, Paint.NONE).write(draft.finish(), buffer);
        stream.print(buffer);
        stream.flush();
    }

    @Override
    public void refuse(Throwable problem) {
        stream.println("graphema: an event before the start could not be made ("
                + problem.getClass().getName() + ")");
    }
}
