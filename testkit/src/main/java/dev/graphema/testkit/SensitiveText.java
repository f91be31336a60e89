package dev.graphema.testkit;

import dev.graphema.event.Event;
import dev.graphema.event.Failure;
import dev.graphema.redaction.Redactor;
import java.math.BigDecimal;
import java.util.List;
import java.util.Map;

/** Finds where a redactor would change an event. */
final class SensitiveText {
    private final Redactor redactor;

    private SensitiveText(Redactor redactor) {
        this.redactor = redactor;
    }

    /** Returns the place, or null if there is none. */
    static String in(Event event, Redactor redactor) {
        SensitiveText search = new SensitiveText(redactor);
        if (search.isSecret(event.message())) {
            return "its message";
        }
        if (search.isSecret(event.thread())) {
            return "its thread's name";
        }
        String field = search.inGroup("", event.fields().toMap());
        if (field != null) {
            return field;
        }
        return search.isInFailure(event.failure()) ? "its failure" : null;
    }

    private String inGroup(String prefix, Map<?, ?> group) {
        for (Map.Entry<?, ?> entry : group.entrySet()) {
            String name = String.valueOf(entry.getKey());
            if (isSecret(name)) {
                return "a field's name";
            }
            String place = inValue(prefix + name, entry.getValue());
            if (place != null) {
                return place;
            }
        }
        return null;
    }

    private String inValue(String path, Object value) {
        if (value instanceof Map<?, ?> group) {
            return inGroup(path + ".", group);
        }
        if (value instanceof List<?> items) {
            return items.stream()
                    .map(item -> inValue(path, item))
                    .filter(place -> place != null)
                    .findFirst()
                    .orElse(null);
        }
        String text = value instanceof Double number && Double.isFinite(number)
                ? new BigDecimal(number).toPlainString()
                : String.valueOf(value);
        return isSecret(text) ? "the field " + path : null;
    }

    private boolean isInFailure(Failure failure) {
        return failure != null
                && (isSecret(failure.message())
                        || isInFailure(failure.cause())
                        || failure.suppressed().stream().anyMatch(this::isInFailure));
    }

    private boolean isSecret(String text) {
        return text != null && !redactor.redact(text).equals(text);
    }
}
