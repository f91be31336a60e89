package dev.graphema.runtime;

import dev.graphema.event.Draft;
import dev.graphema.event.Fields;
import dev.graphema.event.SensitiveValues;
import dev.graphema.propagation.Baggage;
import dev.graphema.propagation.ThreadFrames;
import dev.graphema.propagation.TraceState;
import dev.graphema.redaction.Redactor;
import dev.graphema.sampling.SamplingRule;
import dev.graphema.settings.Settings;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Consumer;
import java.util.function.Predicate;

/**
 * The loggers that share a receiver, by name. They exist as long as the tree, and follow it when a runtime is started or
 * ended.
 */
public final class LoggerTree {
    /** The settings while no runtime is started. */
    private static final Settings BEFORE_START =
            Settings.builder().level(BeforeStart.COUNTED).build();

    /** The loggers of the process. */
    public static final LoggerTree SHARED = new LoggerTree();

    /** The longest name of a logger in characters: a name that is made of data must not cost the program its time. */
    private static final int LONGEST_NAME = 1024;

    /** The most remembered open operations, which are reported if they are never ended. */
    private static final int MOST_OPERATIONS = 4096;

    private final Map<String, LoggerState> loggers = new ConcurrentHashMap<>();
    private final Set<Object> operations = ConcurrentHashMap.newKeySet();
    private final RuntimeThresholds thresholds = new RuntimeThresholds(
            BEFORE_START.thresholds(), InstantSource.system(), System::nanoTime, this::thresholdsChanged);
    private long generation;
    private Predicate<String> addsCaller = name -> false;
    private volatile Settings settings = BEFORE_START;
    private volatile Redactor redactor = Redactor.NONE;
    private volatile Predicate<Draft> keepsTrace;
    private volatile Receiver receiver = new BeforeStart(System.err);

    /** The runtimes that receive the events, the latest last: when it ends, the one before receives them again. */
    private final List<Connection> connections = new ArrayList<>();

    private final RecordedFailures recordedFailures = new RecordedFailures();

    /**
     * The number of events that were refused on threads without enough stack to count them elsewhere. Written without a lock,
     * which needs stack, too: a number that is too small is better than an error in the program.
     */
    volatile long refusedWithoutStack;

    /** A runtime, and how its events are treated. */
    private record Connection(
            Receiver receiver, Settings settings, Redactor redactor, long generation, Predicate<Draft> keepsTrace) {}

    /** @param name a longer one than 1,024 characters is cut */
    public LoggerState state(String name) {
        LoggerState known = loggers.get(name);
        return known != null ? known : added(name.length() <= LONGEST_NAME ? name : name.substring(0, LONGEST_NAME));
    }

    /** Returns the current settings. */
    public Settings settings() {
        return settings;
    }

    /** Returns the members of a caller's baggage that the settings accept, redacted as fields of an event are. */
    public Baggage accepted(Baggage baggage) {
        Settings now = settings;
        return baggage.only(
                name -> now.contextExchange().accepted().contains(name)
                        || now.takesDetailMarks() && name.equals(RuntimeThresholds.MARK),
                redactor::redact);
    }

    /** Returns the {@code tracestate} of a caller without members that contain a secret; null if nothing is left. */
    public String harmless(String state) {
        return state == null ? null : TraceState.without(state, member -> redactor.redact(member) != member);
    }

    /** Returns the fields as they may leave the process: redacted as fields of an event are. */
    public Fields leaving(Fields context) {
        Draft draft = new Draft().missingFields(context);
        redactor.redact(draft);
        return draft.finish().fields();
    }

    /** Returns whether sampling keeps the trace that starts or continues here with such an event. */
    public boolean keepsTrace(Draft first) {
        Predicate<Draft> now = keepsTrace;
        if (now == null) {
            return true;
        }
        ThreadFrames.addFields(first);
        return now.test(first);
    }

    /** Returns the replacements of values of sensitive keys. */
    public SensitiveValues sensitive() {
        return redactor;
    }

    Receiver receiver() {
        return receiver;
    }

    public RecordedFailures recordedFailures() {
        return recordedFailures;
    }

    /** Returns the current thresholds, including those set at run time. */
    public RuntimeThresholds thresholds() {
        return thresholds;
    }

    /** Connects a runtime, which receives the events from now on. */
    synchronized void connect(
            Receiver to, Settings settings, Redactor redactor, long generation, Predicate<Draft> keepsTrace) {
        Connection connection = new Connection(to, settings, redactor, generation, keepsTrace);
        connections.add(connection);
        Receiver before = receiver;
        use(connection);
        if (before instanceof BeforeStart start) {
            start.ended();
        }
    }

    /** Changes what {@link #connect} has set, if that receiver is still connected. */
    synchronized void change(
            Receiver of, Settings settings, Redactor redactor, long generation, Predicate<Draft> keepsTrace) {
        for (int i = 0; i < connections.size(); i++) {
            if (connections.get(i).receiver() == of) {
                connections.set(i, new Connection(of, settings, redactor, generation, keepsTrace));
            }
        }
        if (receiver == of) {
            use(connections.get(connections.size() - 1));
        }
    }

    private void use(Connection connection) {
        Settings settings = connection.settings();
        receiver = connection.receiver();
        addsCaller = settings::addsCaller;
        this.settings = settings;
        redactor = connection.redactor();
        keepsTrace = settings.sampling().stream().anyMatch(SamplingRule::together) ? connection.keepsTrace() : null;
        generation = connection.generation();
        thresholds.use(settings.thresholds(), settings.takesDetailMarks());
        thresholdsChanged();
    }

    private synchronized void thresholdsChanged() {
        loggers.values().forEach(this::set);
    }

    private void set(LoggerState state) {
        state.set(thresholds.of(state.name()), thresholds.floor(), generation, addsCaller.test(state.name()));
    }

    /**
     * Disconnects a runtime. If it receives the events, they go to the runtime that was started before it and is still running,
     * or else to the other receiver.
     */
    synchronized void disconnect(Receiver ending, Receiver other) {
        connections.removeIf(connection -> connection.receiver() == ending);
        if (receiver == ending) {
            thresholds.resetAll(); // they were set for the runtime that ends
            if (connections.isEmpty()) {
                receiver = other;
                settings = BEFORE_START;
                keepsTrace = null;
            } else {
                use(connections.get(connections.size() - 1));
            }
        }
    }

    public void began(Object operation) {
        if (operations.size() < MOST_OPERATIONS) {
            operations.add(operation);
        }
    }

    public void ended(Object operation) {
        operations.remove(operation);
    }

    /** Passes on each operation that is still open, once. */
    void openOperations(Consumer<Object> taker) {
        for (Object operation : List.copyOf(operations)) {
            operations.remove(operation);
            taker.accept(operation);
        }
    }

    // Under the same lock as connect, so that no logger is added with settings that have just been replaced.
    private synchronized LoggerState added(String name) {
        return loggers.computeIfAbsent(name, missing -> {
            LoggerState state = new LoggerState(missing, this);
            set(state);
            return state;
        });
    }
}
