package dev.graphema.testkit;

import dev.graphema.Graphema;
import dev.graphema.Logger;
import dev.graphema.condition.Condition;
import dev.graphema.event.Event;
import dev.graphema.event.Level;
import dev.graphema.redaction.Redactor;
import dev.graphema.settings.Settings;
import dev.graphema.sink.MemorySink;
import java.time.Duration;
import java.util.List;
import java.util.function.Consumer;

/**
 * Takes all events, of every level and without redaction, and keeps them for assertions in the condition language. A failed
 * assertion tells the event that comes nearest, and which parts of the condition it does not meet.
 *
 * <pre>{@code
 * try (EventCapture events = EventCapture.start()) {
 *     desk.confirm(booking);
 *     events.assertEmitted("level = info and message = \"crossing confirmed\" and fare > 80");
 *     events.assertNothingSensitive();
 * }
 * }</pre>
 *
 * <p>Safe to share between threads.
 */
public final class EventCapture implements AutoCloseable {
    private static final Duration LONGEST_WAIT = Duration.ofSeconds(10);

    private final MemorySink sink;
    private final Graphema graphema;
    private int forgotten;

    private EventCapture(MemorySink sink, Graphema graphema) {
        this.sink = sink;
        this.graphema = graphema;
    }

    /** Captures the events of the shared loggers, those in static fields, until it is closed. */
    public static EventCapture start() {
        MemorySink sink = new MemorySink();
        return new EventCapture(sink, Graphema.build(capturing(sink)));
    }

    /** Captures only the events of the loggers of {@link #logger}. */
    public static EventCapture isolated() {
        MemorySink sink = new MemorySink();
        return new EventCapture(sink, Graphema.isolated(capturing(sink)));
    }

    /** The logger of that name whose events are captured here. */
    public Logger logger(String name) {
        return graphema.logger(name);
    }

    /** Everything that was said so far, oldest first. */
    public synchronized List<Event> events() {
        if (!graphema.flush(LONGEST_WAIT)) {
            throw new AssertionError("the events were not written within " + LONGEST_WAIT);
        }
        List<Event> all = sink.events();
        return all.subList(forgotten, all.size());
    }

    /**
     * What was said so far and meets the condition.
     *
     * @throws dev.graphema.condition.ConditionException when the text is no condition
     */
    public List<Event> events(String condition) {
        Condition wanted = Condition.parse(condition);
        return events().stream().filter(wanted::matches).toList();
    }

    /** Forgets everything that was said so far. */
    public synchronized void clear() {
        forgotten += events().size();
    }

    /** Fails unless an event meets the condition. */
    public void assertEmitted(String condition) {
        if (events(condition).isEmpty()) {
            throw new AssertionError("no event meets the condition " + condition + "\n"
                    + NearestEvent.to(Condition.parse(condition), events()));
        }
    }

    /** Fails unless exactly so many events meet the condition. */
    public void assertEmitted(int times, String condition) {
        List<Event> found = events(condition);
        if (found.size() != times) {
            throw new AssertionError(
                    "expected " + times + " events that meet the condition " + condition + ", but there are "
                            + found.size()
                            + (found.isEmpty()
                                    ? "\n" + NearestEvent.to(Condition.parse(condition), events())
                                    : ":\n" + NearestEvent.listed(found)));
        }
    }

    /** Fails when an event meets the condition. */
    public void assertNotEmitted(String condition) {
        List<Event> found = events(condition);
        if (!found.isEmpty()) {
            throw new AssertionError(found.size() + " events meet the condition " + condition + ", but none should:\n"
                    + NearestEvent.listed(found));
        }
    }

    /**
     * Fails when a text or number in an event is what one of the ready detectors of redaction looks for. The failure tells
     * the event's message and the detector, never the value.
     */
    public void assertNothingSensitive() {
        for (String name : Redactor.usualDetectors()) {
            Redactor redactor = new Redactor(List.of(Redactor.readyDetector(name)));
            for (Event event : events()) {
                String leak = SensitiveText.in(event, redactor);
                if (leak != null) {
                    throw new AssertionError("an event of " + event.logger() + " holds a secret of the kind " + name
                            + " in " + leak + "; the message is \"" + redactor.redact(event.message()) + "\"");
                }
            }
        }
    }

    @Override
    public void close() {
        graphema.close();
    }

    private static Consumer<Settings.Builder> capturing(MemorySink sink) {
        return settings -> settings.level(Level.TRACE).detect().sink("capture", sink);
    }
}
