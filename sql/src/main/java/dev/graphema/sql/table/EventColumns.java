package dev.graphema.sql.table;

import dev.graphema.event.Attribute;
import java.util.List;
import java.util.Map;

/**
 * The columns of the table that the sink {@code sql} writes, as conditions and counts use them. In a row whose column {@code plain} is
 * true, each of them has exactly the value of the event.
 */
public final class EventColumns {
    static final String TIME = "\"time\"";
    static final String NANOS = "\"nanos\"";
    public static final String NUMBER = "\"number\"";
    static final String LINE = "\"line\"";
    static final String WEIGHT = "\"weight\"";
    static final String PLAIN = "\"plain\"";
    static final String SEVERITY = "\"severity\"";
    static final String FAILURE = "\"failure\"";

    /** The columns of attributes whose values are texts. */
    static final Map<Attribute, String> TEXTS = Map.of(
            Attribute.SERVICE, "\"service\"",
            Attribute.INSTANCE, "\"instance\"",
            Attribute.LOGGER, "\"logger\"",
            Attribute.MESSAGE, "\"message\"",
            Attribute.THREAD, "\"thread\"",
            Attribute.TRACE, "\"trace\"",
            Attribute.SPAN, "\"span\"",
            Attribute.PARENT, "\"parent\"",
            Attribute.FAILURE_FINGERPRINT, "\"fingerprint\"");

    static final String LEVEL = "\"level\"";

    /** The columns without which the table cannot be asked. */
    public static final List<String> NEEDED =
            List.of("time", "nanos", "number", "line", "weight", "plain", "severity", "level", "failure");

    private EventColumns() {}

    /** Returns the column by whose values events can be counted; null if there is none. */
    static String counted(Attribute attribute) {
        return attribute == Attribute.LEVEL ? LEVEL : attribute == null ? null : TEXTS.get(attribute);
    }
}
