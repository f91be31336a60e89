package dev.graphema;

import dev.graphema.event.Draft;
import dev.graphema.event.Fields;
import dev.graphema.event.SensitiveValues;
import dev.graphema.redaction.Redactor;
import dev.graphema.sampling.SamplingRule;
import dev.graphema.settings.Settings;
import java.time.InstantSource;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Predicate;

/**
 * The loggers that share a receiver, by name. Loggers live as long as the tree and follow it when a runtime is started or
 * ended.
 */
final class LoggerTree {
    /** That of {@link Logger#of} and {@link Logger#named}. */
    static final LoggerTree SHARED = new LoggerTree();

    /** How many open operations are remembered, to be told of when they are never ended. */
    private static final int MOST_OPERATIONS = 4096;

    private final Map<String, Logger> loggers = new ConcurrentHashMap<>();
    private final Set<Operation> operations = ConcurrentHashMap.newKeySet();
    private final Steering steering = new Steering(
            Settings.builder().level(BeforeStart.THRESHOLD).build().thresholds(),
            InstantSource.system(),
            this::thresholdsChanged);
    private long generation;
    private Predicate<String> tellsCaller = name -> false;
    private volatile List<String> contextOut = List.of();
    private volatile Redactor redactor = Redactor.NONE;
    private volatile Predicate<Draft> keepsTrace;
    private volatile Receiver receiver = new BeforeStart(System.err);

    Logger logger(String name) {
        Logger known = loggers.get(name);
        return known != null ? known : added(name);
    }

    /** The fields of the context that leave the process. */
    List<String> contextOut() {
        return contextOut;
    }

    /** The fields as they may leave the process: redacted as an event's are. */
    Fields leaving(Fields context) {
        Draft draft = new Draft().missingFields(context);
        redactor.redact(draft);
        return draft.finish().fields();
    }

    /** Whether sampling keeps the trace that begins, or goes on here, with such an event. */
    boolean keepsTrace(Draft first) {
        Predicate<Draft> now = keepsTrace;
        if (now == null) {
            return true;
        }
        Surroundings.here().addFields(first);
        return now.test(first);
    }

    /** What stands in the place of values of sensitive keys. */
    SensitiveValues sensitive() {
        return redactor;
    }

    Receiver receiver() {
        return receiver;
    }

    /** The thresholds in force, and those set by hand. */
    Steering steering() {
        return steering;
    }

    /** From now on the loggers' events go there. */
    synchronized void connect(Receiver to, Settings settings, long generation, Predicate<Draft> keepsTrace) {
        receiver = to;
        tellsCaller = settings::tellsCaller;
        contextOut = settings.contextOut();
        redactor = settings.redaction().redactor();
        this.keepsTrace = settings.sampling().stream().anyMatch(SamplingRule::together) ? keepsTrace : null;
        this.generation = generation;
        steering.use(settings.thresholds(), settings.takesDetailMarks());
        thresholdsChanged();
    }

    /** Changes what {@link #connect} set, when that receiver still has the loggers. */
    synchronized void change(Receiver of, Settings settings, long generation, Predicate<Draft> keepsTrace) {
        if (receiver == of) {
            connect(of, settings, generation, keepsTrace);
        }
    }

    private synchronized void thresholdsChanged() {
        loggers.values().forEach(logger -> set(logger.source()));
    }

    private void set(Source source) {
        source.set(steering.of(source.name()), steering.floor(), generation, tellsCaller.test(source.name()));
    }

    /** When the loggers' events still go to the one receiver, whose runtime ends, from now on they go to the other. */
    synchronized void replace(Receiver one, Receiver other) {
        if (receiver == one) {
            receiver = other;
            keepsTrace = null;
            steering.resetAll(); // what was set by hand was set for the runtime that ends
        }
    }

    void began(Operation operation) {
        if (operations.size() < MOST_OPERATIONS) {
            operations.add(operation);
        }
    }

    void ended(Operation operation) {
        operations.remove(operation);
    }

    /** Tells of every operation that is still open, and forgets it. */
    void tellOpenOperations() {
        for (Operation operation : List.copyOf(operations)) {
            operations.remove(operation);
            Misuse.NEVER_ENDED.report(operation.toString());
        }
    }

    // Under the same lock as connect, so that no logger is added with settings that have just been replaced.
    private synchronized Logger added(String name) {
        return loggers.computeIfAbsent(name, missing -> {
            Source source = new Source(missing, this);
            set(source);
            return new Logger(source);
        });
    }
}
