package dev.graphema.format;

import dev.graphema.event.Attribute;
import java.util.Locale;

/**
 * The members of an event in Graphema JSON, in the order in which they are written: the only definition of the form. {@link
 * JsonLines} writes it; the readers of {@code graphema-lines} read it. What the values mean is documented in docs/events.md.
 *
 * <p>The form only grows: members can be added in a later version, and none is renamed or changes its meaning. Readers treat
 * members that they do not know as fields.
 */
public enum JsonMember {
    /** RFC 3339 in UTC with nine digits of a second; null for an event without a time. */
    TIME(Attribute.TIME),
    LEVEL(Attribute.LEVEL),
    SERVICE(Attribute.SERVICE),
    INSTANCE(Attribute.INSTANCE),
    LOGGER(Attribute.LOGGER),
    MESSAGE(Attribute.MESSAGE),
    TRACE(Attribute.TRACE),
    SPAN(Attribute.SPAN),
    PARENT(Attribute.PARENT),
    THREAD(Attribute.THREAD),
    SEQUENCE(Attribute.SEQUENCE),
    /** The run of the process, a hyphen, and the sequence. */
    ID(Attribute.EVENT_ID),
    REPEAT(Attribute.EVENT_REPEAT),
    HELD(Attribute.HELD),
    WEIGHT(Attribute.WEIGHT),
    FIELDS(null),
    FINGERPRINT(Attribute.FAILURE_FINGERPRINT),
    /** An object with the members of {@link OfFailure}. */
    FAILURE(null);

    /** The version of the form. */
    public static final int VERSION = 1;

    private final Attribute attribute;
    private final String text = name().toLowerCase(Locale.ROOT);
    private final String following = ",\"" + text + "\":";

    JsonMember(Attribute attribute) {
        this.attribute = attribute;
    }

    /** Returns the name of the member. */
    public String text() {
        return text;
    }

    /** Returns the attribute that it contains; null for fields and failure. */
    public Attribute attribute() {
        return attribute;
    }

    /** Returns whether a member has this name. */
    public boolean is(String name) {
        return text.equals(name);
    }

    /** Returns what is written before the value of a member that is not the first one. */
    public String following() {
        return following;
    }

    /** The members of a failure, in the order in which they are written. */
    public enum OfFailure {
        TYPE,
        MESSAGE,
        FRAMES,
        SHARED,
        OMITTED,
        CAUSE,
        SUPPRESSED;

        private final String text = name().toLowerCase(Locale.ROOT);
        private final String following = ",\"" + text + "\":";

        /** Returns the member with this name, or null. */
        public static OfFailure of(String name) {
            for (OfFailure member : values()) {
                if (member.text.equals(name)) {
                    return member;
                }
            }
            return null;
        }

        /** Returns the name of the member. */
        public String text() {
            return text;
        }

        /** Returns what is written before the value of a member that is not the first one. */
        public String following() {
            return following;
        }
    }
}
