package dev.graphema.event;

import java.util.Locale;

/** The attributes of an event, with their names in conditions and in Graphema JSON. */
public enum Attribute {
    TIME,
    LEVEL,
    SERVICE,
    INSTANCE,
    LOGGER,
    MESSAGE,
    /** The W3C trace id: 32 hexadecimal digits. */
    TRACE,
    /** The id of the operation in which the event was emitted: 16 hexadecimal digits. */
    SPAN,
    /** The id of the enclosing span. */
    PARENT,
    THREAD,
    /** The number of the event in its process, from 1 without gaps. */
    SEQUENCE,
    /** How many events this one represents after sampling; 1 if it was not sampled. */
    WEIGHT,
    /** The run of the process and the number of the event in it. */
    EVENT_ID,
    /** Whether the same event may have been written before. */
    EVENT_REPEAT,
    /** Whether the event was held back in memory and written because of a later event. */
    HELD,
    FAILURE_TYPE,
    FAILURE_MESSAGE,
    /** See {@link Failure#fingerprint}. */
    FAILURE_FINGERPRINT;

    private final String text = name().toLowerCase(Locale.ROOT).replace('_', '.');

    /** Returns the name, for example {@code level} or {@code failure.type}. */
    public String text() {
        return text;
    }

    /** Returns the attribute with this name, ignoring case, or null if it is the name of a field. */
    public static Attribute of(String name) {
        for (Attribute attribute : values()) {
            if (attribute.text.equalsIgnoreCase(name)) {
                return attribute;
            }
        }
        return null;
    }
}
