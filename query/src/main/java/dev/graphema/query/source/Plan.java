package dev.graphema.query.source;

import dev.graphema.condition.Condition;
import java.util.List;

/**
 * How a source reads events. An event matches the condition of the scan exactly if it matches {@code pushed} and {@code
 * remaining}; the source returns all events that match {@code pushed}, and perhaps others.
 *
 * @param parts the parts, which can be read in parallel and in any order
 * @param pushed the part of the condition that the source decides
 * @param remaining the part of the condition that the executor decides for each row; rows have the values that it needs
 */
public record Plan(List<? extends Part> parts, Condition pushed, Condition remaining) {
    /** The plan of a source that decides the whole condition. */
    public static Plan deciding(Scan scan, List<? extends Part> parts) {
        return new Plan(parts, scan.where(), Condition.EVERYTHING);
    }

    /** The plan of a source that returns all events. */
    public static Plan scanning(Scan scan, List<? extends Part> parts) {
        return new Plan(parts, Condition.EVERYTHING, scan.where());
    }

    /** Describes the plan: {@code 12 parts; the source decides: level >= warn; the executor decides: nothing}. */
    public String explain() {
        return parts.size() + (parts.size() == 1 ? " part" : " parts") + "; the source decides: " + text(pushed)
                + "; the executor decides: " + text(remaining);
    }

    private static String text(Condition condition) {
        return condition.isEverything() ? "nothing" : condition.toString();
    }
}
