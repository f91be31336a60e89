package dev.graphema.query.answer;

import dev.graphema.condition.Name;
import java.time.Duration;
import java.util.List;

/**
 * Counts of events by source and time, weighted: if events were sampled, they are estimates. Immutable.
 *
 * @param step the length of a step
 * @param names the names whose values make a source
 * @param begins the begins of all steps from the first to the last with an event, in nanoseconds since 1970
 * @param rows a row for each shown source, in the order of their values
 * @param others the number of sources that are not shown
 * @param all all events
 * @param kept for each step, the number of events in it, without weights
 * @param spikes for each step, whether there are far more events than usual
 * @param coverage what was read
 */
public record TimeMap(
        Duration step,
        List<Name> names,
        List<Long> begins,
        List<Row> rows,
        long others,
        Row all,
        List<Long> kept,
        List<Boolean> spikes,
        Coverage coverage)
        implements Answer {
    /** The most distinguished sources; the events of others are counted in {@link #all} only. */
    public static final int MOST_ROWS = 200;

    public TimeMap {
        names = List.copyOf(names);
        begins = List.copyOf(begins);
        rows = List.copyOf(rows);
        kept = List.copyOf(kept);
        spikes = List.copyOf(spikes);
    }

    /**
     * A row, whose lists have an element for each step.
     *
     * @param values as text, in the order of the names; null for a missing value
     * @param counts the numbers of all events
     * @param warnings the numbers of events of the level WARN
     * @param errors the numbers of events of the levels ERROR and FATAL
     */
    public record Row(List<String> values, List<Long> counts, List<Long> warnings, List<Long> errors) {
        public Row {
            counts = List.copyOf(counts);
            warnings = List.copyOf(warnings);
            errors = List.copyOf(errors);
        }
    }
}
