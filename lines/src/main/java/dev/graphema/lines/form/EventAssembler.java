package dev.graphema.lines.form;

import dev.graphema.event.Draft;
import dev.graphema.event.Failure;
import dev.graphema.event.Level;
import dev.graphema.lines.shape.Levels;
import dev.graphema.lines.shape.LineAttribute;
import dev.graphema.lines.shape.LinePlace;
import dev.graphema.lines.shape.LineShape;
import dev.graphema.lines.shape.Meaning;
import dev.graphema.lines.stack.StackTraces;
import dev.graphema.query.part.TextPart;
import dev.graphema.query.part.TextShape;
import dev.graphema.trace.SpanId;
import dev.graphema.trace.TraceId;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Function;
import java.util.function.Supplier;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * Builds an event from names and values, by the meaning of names. A value that is invalid for its attribute, or for which
 * a preferred name has another value, becomes a field, so nothing is lost. For one thread, one event after the other.
 */
final class EventAssembler implements LineValues {
    /** W3C Trace Context. */
    private static final Pattern TRACEPARENT =
            Pattern.compile("[0-9a-f]{2}-([0-9a-f]{32})-([0-9a-f]{16})-[0-9a-f]{2}.*");

    /** The name of the field of damaged events that contains what is wrong with the line. */
    private static final String DAMAGE = "line.damage";

    /** The name of the field that contains what is neither a value with a name nor the message. */
    private static final String REST = "line.rest";

    private static final int MOST_KNOWN_NAMES = 2_000;
    private final LineShape shape;
    private final EventTime time;
    private final List<TextPart> parts;
    private final LineValues observer;
    private final LinePlace linePlace;
    private final Map<String, Meaning> known = new HashMap<>();
    private final Set<String> names = new HashSet<>();
    private final Map<String, Object> fields = new LinkedHashMap<>();
    private final List<Given> given = new ArrayList<>();
    private Draft draft;
    private boolean isOwn;
    private LineDamage damage;

    /** Several values of a repeated name, as opposed to a list that was written as one. */
    private static final class Values extends ArrayList<Object> {
        private static final long serialVersionUID = 1;
    }

    /** A value of an attribute. */
    record Given(String name, Meaning meaning, Object value) {
        String text() {
            return value.toString();
        }
    }

    /**
     * @param shape the meaning of names, and which names are fields, too
     * @param observer receives all values, too; null for none
     * @param linePlace the place of each line; null if no question asks for it
     */
    EventAssembler(LineShape shape, LineValues observer, LinePlace linePlace) {
        this.shape = shape;
        this.observer = observer;
        this.linePlace = linePlace;
        this.time = new EventTime(shape.times());
        this.parts = shape.askedParts();
    }

    /**
     * Starts an event.
     *
     * @param isOwn whether it was written by Graphema, which writes attributes at the top only
     */
    Draft begin(boolean isOwn) {
        if (observer != null) {
            observer.begin();
        }
        this.isOwn = isOwn;
        names.clear();
        fields.clear();
        given.clear();
        damage = null;
        draft = Draft.ofWritten();
        return draft;
    }

    @Override
    public void take(String name, Object value) {
        if (observer != null) {
            observer.take(name, value);
        }
        if (!isOwn && !names.add(name)) {
            damaged(LineDamage.REPEATED_NAME);
        }
        if (value instanceof Map<?, ?> group) {
            Object rest = isOwn ? group : withoutAttributes(name, group, 1);
            if (rest != null) {
                field(name, rest);
            }
            return;
        }
        Meaning meaning = isScalar(value) ? meaning(name) : Meaning.FIELD;
        if (meaning.isField() || meaning.isLoose() && !isBeyondDoubt(meaning, value)) {
            field(name, value instanceof String text ? JsonValues.meaning(text) : value);
            return;
        }
        given.add(new Given(name, meaning, value));
        if (shape.asked().contains(name) && !isOwn) {
            field(name, value);
        }
    }

    @Override
    public void rest(String text) {
        String part = text.strip();
        if (!part.isEmpty()) {
            fields.merge(REST, part, (before, more) -> before + " " + more);
        }
    }

    @Override
    public void damaged(LineDamage damage) {
        this.damage = this.damage == null ? damage : this.damage;
    }

    /** Adds a field; of a name that is there already, the values are a list. */
    void field(String name, Object value) {
        if (isOwn) { // Graphema writes each name once
            draft.writer().put(name, value);
            return;
        }
        fields.put(name, fields.containsKey(name) ? both(fields.get(name), value) : value);
    }

    /** Replaces the last value of a name, of which a part was read, by a text; null for none. */
    void replace(String name, String value) {
        names.remove(name);
        fields.remove(name);
        given.removeIf(each -> each.name().equals(name));
        take(name, value);
    }

    /**
     * Returns the list of the values of a repeated name.
     *
     * @param before its value or values so far
     */
    static List<Object> both(Object before, Object value) {
        Values values = before instanceof Values several ? several : new Values();
        if (before != values) {
            values.add(before);
        }
        values.add(value);
        return values;
    }

    /** Returns what is wrong with the last event; null for nothing. */
    LineDamage damage() {
        return damage;
    }

    /**
     * Returns the finished draft.
     *
     * @param place the time that determines the position of an event without a time
     */
    Draft finish(long place) {
        time(place);
        Level level = taken(LineAttribute.LEVEL, EventAssembler::level);
        draft.level(level)
                .message(text(LineAttribute.MESSAGE))
                .logger(text(LineAttribute.LOGGER))
                .service(text(LineAttribute.SERVICE))
                .instance(text(LineAttribute.INSTANCE))
                .thread(text(LineAttribute.THREAD));
        trace();
        failure();
        given.stream().filter(rest -> !isAlreadyField(rest)).forEach(rest -> field(rest.name(), rest.value()));
        if (damage != null && !damage.isEvident()) {
            fields.put(DAMAGE, damage.text());
        }
        if (linePlace != null) {
            place(LinePlace.FILE, linePlace::file);
            place(LinePlace.NUMBER, linePlace::number);
            place(LinePlace.OFFSET, linePlace::offset);
        }
        fields.forEach(draft.writer()::put);
        return draft;
    }

    /** Adds the asked parts of texts to a draft that has all its texts. */
    void parts(Draft complete) {
        for (TextPart part : parts) {
            String value = complete.fields().has(part.name()) ? null : part.value(complete);
            if (value != null) {
                complete.writer().put(part.name(), KeyValueLine.meaning(value));
            }
        }
    }

    private void place(String name, Supplier<Object> value) {
        if (shape.asked().contains(name)) {
            fields.putIfAbsent(name, value.get());
        }
    }

    /**
     * Takes attributes out of a group, such as {@code error.type}.
     *
     * @return the group without them; null for nothing
     */
    private Object withoutAttributes(String path, Map<?, ?> group, int depth) {
        Map<Object, Object> rest = null;
        for (Map.Entry<?, ?> each : group.entrySet()) {
            String name = path + "." + each.getKey();
            Object value = each.getValue();
            Object left = value;
            if (value instanceof Map<?, ?> inner && depth < LineAttribute.DEEPEST) {
                left = withoutAttributes(name, inner, depth + 1);
            } else if (isScalar(value)) {
                Meaning meaning = meaning(name);
                boolean isAttribute = !meaning.isField() && (!meaning.isLoose() || isBeyondDoubt(meaning, value));
                if (isAttribute) {
                    given.add(new Given(name, meaning, value));
                    left = shape.asked().contains(name) ? value : null;
                }
            }
            if (left != value) {
                rest = rest == null ? new LinkedHashMap<>(group) : rest;
                if (left == null) {
                    rest.remove(each.getKey());
                } else {
                    rest.put(each.getKey(), left);
                }
            }
        }
        return rest == null ? group : rest.isEmpty() ? null : rest;
    }

    private Meaning meaning(String name) {
        Meaning meaning = known.get(name);
        if (meaning == null) {
            if (known.size() >= MOST_KNOWN_NAMES) {
                known.clear();
            }
            meaning = shape.meaning(name);
            known.put(name, meaning);
        }
        return meaning;
    }

    private static boolean isScalar(Object value) {
        return value instanceof String || value instanceof Number;
    }

    /** Whether a value has the meaning of a name that leaves doubt. */
    private boolean isBeyondDoubt(Meaning meaning, Object value) {
        return switch (meaning.attribute()) {
            case TIME -> time.isEvident(value);
            case LEVEL -> value instanceof String word && Levels.isWord(word);
            default -> value instanceof String;
        };
    }

    private static Level level(Given level) {
        return level.value() instanceof Number number
                ? Levels.ofNumber(level.name(), number.longValue())
                : Levels.of(level.name(), level.text());
    }

    private void time(long place) {
        Long moment = time.of(given);
        if (moment != null) {
            draft.time(moment);
        } else {
            draft.timeless(place);
            damaged(time.damage());
        }
    }

    /**
     * Takes the value of the most preferred name that is valid; the others remain.
     *
     * @return null for none
     */
    private <T> T taken(LineAttribute attribute, Function<Given, T> parser) {
        Given best = null;
        T value = null;
        for (Given each : given) {
            boolean isPreferred = each.meaning().attribute() == attribute
                    && (best == null || each.meaning().rank() < best.meaning().rank());
            T parsed = isPreferred ? parser.apply(each) : null;
            if (parsed != null) {
                best = each;
                value = parsed;
            }
        }
        given.remove(best);
        return value;
    }

    private String text(LineAttribute attribute) {
        return taken(attribute, Given::text);
    }

    private void trace() {
        TraceId trace = taken(LineAttribute.TRACE, each -> TraceId.parse(each.text()));
        SpanId span = taken(LineAttribute.SPAN, each -> SpanId.parse(each.text()));
        SpanId parent = taken(LineAttribute.PARENT, each -> SpanId.parse(each.text()));
        for (Given each : given) {
            Matcher header =
                    each.meaning().attribute() == LineAttribute.TRACE ? TRACEPARENT.matcher(each.text()) : null;
            if (trace == null && header != null && header.matches()) {
                trace = TraceId.parse(header.group(1));
                span = span == null ? SpanId.parse(header.group(2)) : span;
            }
        }
        draft.trace(trace, span, parent);
    }

    private void failure() {
        String whole = taken(LineAttribute.FAILURE_TEXT, EventAssembler::written);
        String type = taken(LineAttribute.FAILURE_TYPE, EventAssembler::written);
        if (whole == null && type == null) {
            return; // a message of a failure without one is a field
        }
        String message = taken(LineAttribute.FAILURE_MESSAGE, EventAssembler::written);
        Failure failure = whole == null ? null : StackTraces.parse(whole);
        if (failure == null) {
            String what = message != null ? message : whole;
            failure = new Failure(type == null ? TextShape.of(whole) : type, what, List.of(), 0, 0, null, List.of());
        } else if (type != null) {
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

    /** Whether a question names the value, so that it is a field already. */
    private boolean isAlreadyField(Given rest) {
        return !isOwn && shape.asked().contains(rest.name());
    }

    private static String written(Given each) {
        return each.value() instanceof String text && !text.isBlank() ? text : null;
    }
}
