package dev.graphema.testkit;

import dev.graphema.Graphema;
import dev.graphema.Logger;
import dev.graphema.condition.Condition;
import dev.graphema.event.Event;
import dev.graphema.event.Level;
import dev.graphema.redaction.Detectors;
import dev.graphema.redaction.Redactor;
import dev.graphema.settings.Settings;
import dev.graphema.sink.MemorySink;
import java.time.Duration;
import java.util.List;
import java.util.function.Consumer;

/**
 * Captures all events, of every level and without redaction, for assertions in the condition language. The message of a failed
 * assertion contains the most similar event, and the parts of the condition that it does not match.
 *
 * <pre>{@code
 * try (EventCapture events = EventCapture.start()) {
 *     desk.confirm(booking);
 *     events.assertEmitted("level = info and message = \"crossing confirmed\" and fare > 80");
 *     events.assertNothingSensitive();
 * }
 * }</pre>
 *
 * <p>Thread-safe.
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

    /** Captures the events of the shared loggers, such as those in static fields, until it is closed. */
    public static EventCapture start() {
        MemorySink sink = new MemorySink();
        return new EventCapture(sink, Graphema.build(capturing(sink)));
    }

    /** Captures only the events of loggers of {@link #logger}. */
    public static EventCapture isolated() {
        MemorySink sink = new MemorySink();
        return new EventCapture(sink, Graphema.isolated(capturing(sink)));
    }

    /** Returns the logger with this name whose events are captured. */
    public Logger logger(String name) {
        return graphema.logger(name);
    }

    /** Returns all captured events, oldest first. */
    public synchronized List<Event> events() {
        if (!graphema.flush(LONGEST_WAIT)) {
            throw new AssertionError("the events were not written within " + LONGEST_WAIT);
        }
        List<Event> all = sink.events();
        return all.subList(forgotten, all.size());
    }

    /**
     * Returns the captured events that match the condition.
     *
     * @throws dev.graphema.condition.ConditionException if the text is not a condition
     */
    public List<Event> events(String condition) {
        Condition wanted = Condition.parse(condition);
        return events().stream().filter(wanted::matches).toList();
    }

    /** Removes all captured events. */
    public synchronized void clear() {
        forgotten += events().size();
    }

    /** Fails unless an event matches the condition. */
    public void assertEmitted(String condition) {
        if (events(condition).isEmpty()) {
            throw new AssertionError("no event meets the condition " + condition + "\n"
                    + NearestEvent.to(Condition.parse(condition), events()));
        }
    }

    /** Fails unless exactly this number of events match the condition. */
    public void assertEmitted(int times, String condition) {
        List<Event> found = events(condition);
        if (found.size() != times) {
            throw new AssertionError("expected " + times + (times == 1 ? " event" : " events")
                    + " that meet the condition " + condition + ", but there are "
                    + found.size()
                    + (found.isEmpty()
                            ? "\n" + NearestEvent.to(Condition.parse(condition), events())
                            : ":\n" + NearestEvent.listed(found)));
        }
    }

    /** Fails if an event matches the condition. */
    public void assertNotEmitted(String condition) {
        List<Event> found = events(condition);
        if (!found.isEmpty()) {
            throw new AssertionError(found.size() + (found.size() == 1 ? " event meets" : " events meet")
                    + " the condition " + condition + ", but none should:\n" + NearestEvent.listed(found));
        }
    }

    /**
     * Fails if a built-in detector of redaction finds a secret in a text or number of an event. The message contains
     * the message of the event and the detector, never the value.
     */
    public void assertNothingSensitive() {
        for (String name : Detectors.usual()) {
            Redactor redactor = new Redactor(List.of(Detectors.named(name)));
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
