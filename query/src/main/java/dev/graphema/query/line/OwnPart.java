package dev.graphema.query.line;

import dev.graphema.event.Attribute;
import java.util.Locale;

/** What may follow the level in a line of our own form, in the order in which it is written. */
enum OwnPart {
    SERVICE(Attribute.SERVICE),
    INSTANCE(Attribute.INSTANCE),
    LOGGER(Attribute.LOGGER),
    MESSAGE(Attribute.MESSAGE),
    TRACE(Attribute.TRACE),
    SPAN(Attribute.SPAN),
    PARENT(Attribute.PARENT),
    THREAD(Attribute.THREAD),
    SEQUENCE(Attribute.SEQUENCE),
    ID(Attribute.EVENT_ID),
    REPEAT(Attribute.EVENT_REPEAT),
    HELD(Attribute.HELD),
    WEIGHT(Attribute.WEIGHT),
    FIELDS(null),
    FINGERPRINT(null),
    FAILURE(null);

    private final Attribute attribute;
    private final NameBytes key;

    OwnPart(Attribute attribute) {
        this.attribute = attribute;
        this.key = new NameBytes(name().toLowerCase(Locale.ROOT));
    }

    /** The attribute that it tells, or null when it tells something else. */
    Attribute attribute() {
        return attribute;
    }

    /** Its name in the line. */
    NameBytes key() {
        return key;
    }
}
