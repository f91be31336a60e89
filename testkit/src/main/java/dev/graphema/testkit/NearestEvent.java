package dev.graphema.testkit;

import dev.graphema.condition.Condition;
import dev.graphema.condition.Expression;
import dev.graphema.event.Event;
import dev.graphema.format.Columns;
import dev.graphema.terminal.Paint;
import dev.graphema.text.Utf8Buffer;
import java.time.ZoneId;
import java.util.List;
import java.util.stream.Collectors;

/** Finds the event that is most similar to those that a condition requires. */
final class NearestEvent {
    private static final int MOST_LISTED = 10;

    private NearestEvent() {}

    /**
     * Returns the event that matches the most parts of the condition, formatted in columns, and the parts that it does
     * not match.
     */
    static String to(Condition condition, List<Event> events) {
        if (events.isEmpty()) {
            return "no events were emitted";
        }
        List<Condition> parts = parts(condition.expression());
        Event nearest = events.get(0);
        for (Event event : events) {
            if (unmet(parts, event).size() < unmet(parts, nearest).size()) {
                nearest = event;
            }
        }
        String unmet = unmet(parts, nearest).stream().map(Condition::toString).collect(Collectors.joining(", "));
        String which = events.size() == 1 ? "the only event is" : "the nearest of " + events.size() + " events is";
        return which + "\n" + shown(nearest) + "which does not meet: " + unmet;
    }

    /** Returns the first events, formatted in columns. */
    static String listed(List<Event> events) {
        String shown =
                events.stream().limit(MOST_LISTED).map(NearestEvent::shown).collect(Collectors.joining());
        return events.size() <= MOST_LISTED ? shown : shown + "and " + (events.size() - MOST_LISTED) + " more";
    }

    private static List<Condition> parts(Expression expression) {
        List<Expression> parts = expression instanceof Expression.And and ? and.parts() : List.of(expression);
        return parts.stream().map(Condition::of).toList();
    }

    private static List<Condition> unmet(List<Condition> parts, Event event) {
        return parts.stream().filter(part -> !part.matches(event)).toList();
    }

    private static String shown(Event event) {
        Utf8Buffer buffer = new Utf8Buffer(256);
        Columns.of(ZoneId.systemDefault(), 0, Paint.NONE).write(event, buffer);
        return "  " + buffer;
    }
}
