package dev.graphema.lines.json;

import dev.graphema.event.Attribute;
import java.util.Locale;

/** The parts of a line in Graphema JSON after the level, in order. */
enum JsonPart {
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

    JsonPart(Attribute attribute) {
        this.attribute = attribute;
        this.key = new NameBytes(name().toLowerCase(Locale.ROOT));
    }

    /** Returns its attribute, or null. */
    Attribute attribute() {
        return attribute;
    }

    /** Returns its name in the line. */
    NameBytes key() {
        return key;
    }
}
