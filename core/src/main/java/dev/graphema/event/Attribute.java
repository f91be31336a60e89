package dev.graphema.event;

import java.util.Locale;

/** What every event has beside its fields, under the name by which conditions and the JSON form call it. */
public enum Attribute {
    TIME,
    LEVEL,
    SERVICE,
    INSTANCE,
    LOGGER,
    MESSAGE,
    /** The W3C trace id: 32 hexadecimal digits. */
    TRACE,
    /** The id of the operation in which the event was said: 16 hexadecimal digits. */
    SPAN,
    /** The span that the event's span is a part of. */
    PARENT,
    THREAD,
    /** The event's number within its process, counted from 1 without gaps. */
    SEQUENCE,
    /** How many events this one stands for after sampling; 1 when nothing was thinned. */
    WEIGHT,
    /** The process's run and the event's number within it. */
    EVENT_ID,
    /** Whether the same event may have been written before. */
    EVENT_REPEAT,
    /** Whether the event was held back in memory and came out because of what happened later. */
    HELD,
    FAILURE_TYPE,
    FAILURE_MESSAGE,
    /** See {@link Failure#fingerprint}. */
    FAILURE_FINGERPRINT;

    private final String text = name().toLowerCase(Locale.ROOT).replace('_', '.');

    /** The attribute's name, for example {@code level} or {@code failure.type}. */
    public String text() {
        return text;
    }

    /** The attribute of that name in any case, or null when it names a field. */
    public static Attribute of(String name) {
        for (Attribute attribute : values()) {
            if (attribute.text.equalsIgnoreCase(name)) {
                return attribute;
            }
        }
        return null;
    }
}
