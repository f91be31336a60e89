package dev.graphema.lines.form;

import dev.graphema.event.Draft;
import dev.graphema.event.Failure;
import dev.graphema.event.Level;
import dev.graphema.trace.SpanId;
import dev.graphema.trace.TraceId;
import java.math.BigDecimal;
import java.math.BigInteger;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.function.Function;

/**
 * Builds an event from names and values, by the common meaning of names. A value that is invalid for its attribute, or
 * for which a preferred name has another value, becomes a field, so nothing is lost. For one thread, one event after
 * the other.
 */
final class EventAssembler {
    private final LineShape shape;
    private final Map<LineAttribute, Given> given = new EnumMap<>(LineAttribute.class);
    private Draft draft;
    private String defect;

    private record Given(String name, int rank, Object value) {}

    /** @param shape the meaning of further names, and which names are fields, too */
    EventAssembler(LineShape shape) {
        this.shape = shape;
    }

    /** Starts an event. */
    Draft begin() {
        given.clear();
        draft = Draft.ofWritten();
        return draft;
    }

    /** Adds a name and its value: text, a number, or any value of a field. */
    void take(String name, Object value) {
        LineAttribute.Meaning meaning = isScalar(value) ? LineAttribute.meaning(name, shape.mapping()) : null;
        if (meaning == null) {
            draft.writer().put(name, value);
            return;
        }
        if (shape.asked().contains(name) && !meaning.role().text().equals(name)) {
            draft.writer().put(name, value);
        }
        Given before = given.get(meaning.role());
        Given now = new Given(name, meaning.rank(), value);
        if (before == null || meaning.rank() < before.rank()) {
            given.put(meaning.role(), now);
            now = before;
        }
        if (now != null) {
            draft.writer().put(now.name(), now.value());
        }
    }

    private static boolean isScalar(Object value) {
        return value instanceof String || value instanceof Number;
    }

    /** As {@link #finishWithin}. @throws UnreadableLineException if there is no time */
    Draft finish() throws UnreadableLineException {
        Draft finished = finishWithin(0);
        if (defect != null) {
            throw new UnreadableLineException(defect);
        }
        return finished;
    }

    /** Returns the defect of the time of the last event; null for none. */
    String defect() {
        return defect;
    }

    /** Returns the finished draft. @param place the time that determines the position of an event without a time */
    Draft finishWithin(long place) {
        time(place);
        Given level = given.get(LineAttribute.LEVEL);
        if (level != null) {
            Level known = level.value() instanceof Number number
                    ? Levels.ofNumber(level.name(), number.longValue())
                    : Levels.of(level.name(), level.value().toString());
            draft.level(known);
            kept(level, known);
        }
        draft.message(text(LineAttribute.MESSAGE))
                .logger(text(LineAttribute.LOGGER))
                .service(text(LineAttribute.SERVICE))
                .instance(text(LineAttribute.INSTANCE))
                .thread(text(LineAttribute.THREAD));
        TraceId trace = kept(given.get(LineAttribute.TRACE), id(LineAttribute.TRACE, TraceId::parse));
        SpanId span = kept(given.get(LineAttribute.SPAN), id(LineAttribute.SPAN, SpanId::parse));
        SpanId parent = kept(given.get(LineAttribute.PARENT), id(LineAttribute.PARENT, SpanId::parse));
        draft.trace(trace, span, parent);
        failure();
        return draft;
    }

    private void time(long place) {
        Given time = given.get(LineAttribute.TIME);
        Long moment = time == null
                ? null
                : time.value() instanceof Number number
                        ? Moments.ofNumber(exact(number))
                        : Moments.parse(time.value().toString());
        if (moment != null) {
            draft.time(moment);
            defect = null;
            return;
        }
        draft.timeless(place);
        defect = time == null ? "expected a \"time\" such as \"2026-05-15T06:31:02.123Z\"" : defectOf(time);
        kept(time, null);
    }

    private static String defectOf(Given time) {
        String zone = Moments.ambiguousZone(time.value().toString());
        return zone == null
                ? "\"" + time.name()
                        + "\" is not a valid time from 1677 to 2262 such as \"2026-05-15T06:31:02.123Z\" or"
                        + " 1778826662.123"
                : "\"" + time.name() + "\" has the zone " + zone + ", whose offset is not known or not the only one:"
                        + " expected an offset such as +05:30";
    }

    private static BigDecimal exact(Number number) {
        return number instanceof BigDecimal decimal
                ? decimal
                : number instanceof BigInteger integer ? new BigDecimal(integer) : new BigDecimal(number.toString());
    }

    private void failure() {
        String whole = text(LineAttribute.FAILURE_TEXT);
        String type = text(LineAttribute.FAILURE_TYPE);
        String message = text(LineAttribute.FAILURE_MESSAGE);
        if (isBlank(whole) && isBlank(type)) {
            if (message != null) {
                draft.writer().put(given.get(LineAttribute.FAILURE_MESSAGE).name(), message);
            }
            return;
        }
        Failure failure = isBlank(whole) ? null : FailureLines.parse(whole);
        if (failure == null) {
            String what = message != null ? message : isBlank(whole) ? null : whole;
            failure = new Failure(isBlank(type) ? "error" : type, what, List.of(), 0, 0, null, List.of());
        } else if (!isBlank(type)) {
            failure = new Failure(
                    type,
                    message == null ? failure.message() : message,
                    failure.frames(),
                    failure.sharedFrames(),
                    failure.omittedFrames(),
                    failure.cause(),
                    failure.suppressed());
        }
        draft.failure(failure);
    }

    private static boolean isBlank(String text) {
        return text == null || text.isBlank();
    }

    private String text(LineAttribute role) {
        Given value = given.get(role);
        return value == null ? null : value.value().toString();
    }

    private <T> T id(LineAttribute role, Function<String, T> parser) {
        String text = text(role);
        return text == null ? null : parser.apply(text);
    }

    /** Adds a value as a field if it is invalid for its attribute. */
    private <T> T kept(Given value, T meaning) {
        if (value != null && meaning == null) {
            draft.writer().put(value.name(), value.value());
        }
        return meaning;
    }
}
