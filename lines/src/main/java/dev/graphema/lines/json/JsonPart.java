package dev.graphema.lines.json;

import dev.graphema.event.Attribute;
import dev.graphema.format.JsonMember;
import java.util.Arrays;

/**
 * A member of a line in Graphema JSON after the level, and its name as bytes.
 *
 * @param member the member
 * @param key its name in the line
 */
record JsonPart(JsonMember member, NameBytes key) {
    /** All parts in their order. */
    static final JsonPart[] ALL = Arrays.stream(JsonMember.values())
            .filter(member -> member != JsonMember.TIME && member != JsonMember.LEVEL)
            .map(member -> new JsonPart(member, new NameBytes(member.text())))
            .toArray(JsonPart[]::new);

    /** Returns the attribute, or null. */
    Attribute attribute() {
        return member.attribute();
    }

    /** Returns the index among all parts. */
    static int index(JsonMember member) {
        return member.ordinal() - JsonMember.SERVICE.ordinal();
    }
}
