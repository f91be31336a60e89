package dev.graphema.query.partial;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonGenerator;
import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.StreamReadConstraints;
import dev.graphema.condition.Condition;
import dev.graphema.event.Event;
import dev.graphema.query.Ask;
import dev.graphema.query.Question;
import dev.graphema.query.Window;
import dev.graphema.query.answer.Answer;
import dev.graphema.query.answer.Coverage;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.util.List;
import java.util.function.Predicate;
import java.util.function.Supplier;

/**
 * Moves partial answers between processes: one asks for a part, another one fills it from its events and returns its state, and
 * the first merges that into its own. The state is JSON in a form that both processes must know: version {@value #VERSION}.
 */
public final class PartialTransfer {
    /** The version of the form. */
    public static final int VERSION = 1;

    /** The most events that are asked of another process as a part: of more, each is read. */
    public static final int MOST_EVENTS = 100_000;

    private static final JsonFactory JSON = JsonFactory.builder()
            .streamReadConstraints(StreamReadConstraints.builder()
                    .maxStringLength(Integer.MAX_VALUE)
                    .build())
            .build();

    private PartialTransfer() {}

    /**
     * What a part is computed from.
     *
     * @param question the question; only its condition and window count if there is a role
     * @param role null, or what else than an answer to the question the part is for: {@code side:others} and {@code side:events} of a
     *     comparison, {@code near:TIME:ORDER:COUNT} for the neighbours of an event
     */
    public record Request(Question<?> question, String role) {
        private static final String SIDE = "side:";
        private static final String NEAR = "near:";
        private static final Ask<?> ANYTHING = new Ask.Events(Ask.Order.NEWEST, 0);

        /**
         * Returns how the part is filled.
         *
         * @throws IllegalArgumentException if the role is none, or the question cannot be answered in one pass
         */
        public Aggregation<?> aggregation() {
            if (role == null) {
                Aggregation<?> aggregation = Aggregation.of(question);
                if (aggregation == null) {
                    throw new IllegalArgumentException(
                            "ask: it needs several passes over the events (expected: one pass)");
                }
                return aggregation;
            }
            if (role.equals(SIDE + "others") || role.equals(SIDE + "events")) {
                return Aggregation.ofSide(role.endsWith("others"));
            }
            String[] parts = role.split(":");
            try {
                if (role.startsWith(NEAR) && parts.length == 4) {
                    PlacedEvent place = new PlacedEvent(Long.parseLong(parts[1]), Long.parseLong(parts[2]), () -> null);
                    return Neighbours.of(place, Integer.parseInt(parts[3]));
                }
            } catch (NumberFormatException e) {
                throw unknown(e);
            }
            throw unknown(null);
        }

        private IllegalArgumentException unknown(RuntimeException cause) {
            return new IllegalArgumentException(
                    "role: \"" + role + "\" (expected: side:others, side:events or near:TIME:ORDER:COUNT)", cause);
        }
    }

    /**
     * Returns what is to be asked of another process, so that it fills a part of the same kind.
     *
     * @return null if parts of this kind cannot be moved
     */
    public static Request request(Partial<?> partial, Condition where, Window during) {
        if (partial instanceof SideCounts sides) {
            return new Request(question(where, during, Request.ANYTHING), Request.SIDE + sides.sideName());
        }
        if (partial instanceof Neighbours neighbours) {
            return new Request(question(where, during, Request.ANYTHING), Request.NEAR + neighbours.place());
        }
        if (partial instanceof FirstEvents events) {
            if (events.ask().limit() > MOST_EVENTS) {
                return null; // the other process would have to keep them all
            }
            return new Request(new Question<>(where, during, events.fields(), events.ask()), null);
        }
        return partial instanceof Transferable other ? new Request(question(where, during, other.ask()), null) : null;
    }

    private static Question<?> question(Condition where, Window during, Ask<?> ask) {
        return new Question<>(where, during, List.of(), ask);
    }

    /**
     * Writes the state of a part, which must not be used afterwards.
     *
     * @param coverage returns what was read; called last, because kept events are read completely when they are written
     */
    public static void write(Partial<?> partial, Supplier<Coverage> coverage, OutputStream to) throws IOException {
        try (JsonGenerator json = JSON.createGenerator(to)) {
            json.disable(JsonGenerator.Feature.AUTO_CLOSE_TARGET);
            json.disable(JsonGenerator.Feature.AUTO_CLOSE_JSON_CONTENT); // what is cut off must not look complete
            StateWriter state = new StateWriter(json);
            state.begin().number(VERSION);
            ((Transferable) partial).write(state);
            CoverageState.write(coverage.get(), state);
            state.end();
        }
    }

    /**
     * Reads the state of a part and merges it into another one of the same kind.
     *
     * @return what was read for it
     * @throws IOException if it is no such state
     */
    public static <A extends Answer> Coverage merge(InputStream from, Partial<A> into, EventLines events)
            throws IOException {
        try (JsonParser json = JSON.createParser(from)) {
            StateReader state = new StateReader(json, events);
            begin(state);
            ((Transferable) into).merge(state);
            Coverage coverage = CoverageState.read(state);
            state.end();
            return coverage;
        }
    }

    private static void begin(StateReader state) throws IOException {
        state.begin();
        long version = state.number();
        if (version != VERSION) {
            throw new IOException("partial answers have version " + version + ": expected " + VERSION
                    + "; use the same version of Graphema on both sides");
        }
    }

    /** Passes on events one after the other. */
    public interface Sender {
        /**
         * Sends events.
         *
         * @param receiver returns false if it wants no more
         * @return what was read
         */
        Coverage send(Predicate<Event> receiver) throws IOException;
    }

    /** Writes events in the order in which they are sent. */
    public static void writeEvents(Sender sender, OutputStream to) throws IOException {
        try (JsonGenerator json = JSON.createGenerator(to)) {
            json.disable(JsonGenerator.Feature.AUTO_CLOSE_TARGET);
            json.disable(JsonGenerator.Feature.AUTO_CLOSE_JSON_CONTENT); // what is cut off must not look complete
            StateWriter state = new StateWriter(json);
            state.begin().number(VERSION).begin();
            Coverage coverage = sender.send(event -> {
                try {
                    state.begin().number(event.epochNanos()).event(event).end();
                    return true;
                } catch (IOException e) {
                    throw new UncheckedIOException(e);
                }
            });
            state.end();
            CoverageState.write(coverage, state);
            state.end();
        } catch (UncheckedIOException e) {
            throw e.getCause();
        }
    }

    /** Begins to read events that were written. */
    public static TransferredEvents readEvents(InputStream from, EventLines events) throws IOException {
        StateReader state = new StateReader(JSON.createParser(from), events);
        begin(state);
        state.begin();
        return new TransferredEvents(state);
    }
}
