package dev.graphema.spark;

import dev.graphema.condition.Condition;
import dev.graphema.event.Event;
import dev.graphema.lines.form.WrittenEvents;
import dev.graphema.query.Window;
import dev.graphema.query.partial.EventLines;
import dev.graphema.segments.store.LegalHold;
import dev.graphema.segments.store.RetentionRule;
import dev.graphema.segments.store.StoreRules;
import dev.graphema.spark.lake.LakeFiles;
import dev.graphema.text.Times;
import java.io.IOException;
import java.io.Serializable;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.UUID;
import org.apache.spark.api.java.function.FilterFunction;
import org.apache.spark.sql.Dataset;
import org.apache.spark.sql.Row;
import org.apache.spark.sql.functions;

/**
 * Puts the small files of each hour together, and deletes what the rules of a store do not keep. Whoever reads the lake with this library sees
 * each hour as it was before or as it is afterwards.
 */
public final class Tidying {
    /** Hours with this many files more than they need are written again. */
    private static final int MOST_FILES = 4;

    /** The bytes of a file, as far as they can be estimated before it is written. */
    private static final long BYTES_OF_FILE = 512L << 20;

    private final Lake lake;
    private final StoreRules rules;
    private final long now;

    /**
     * @param rules how long events are kept; see {@link StoreRules#of}. A lake cannot bound the bytes of a rule.
     * @param now the time from which ages are counted; files of its hour are left unchanged
     * @throws IllegalArgumentException if a rule bounds the bytes
     */
    public Tidying(Lake lake, StoreRules rules, Instant now) {
        for (RetentionRule each : rules.retention()) {
            if (each.total() != Long.MAX_VALUE) {
                throw new IllegalArgumentException("the rule for " + each
                        + " has a total: a lake only deletes by age; remove it from the rules of the lake");
            }
        }
        this.lake = lake;
        this.rules = rules;
        this.now = Times.epochNanos(now);
    }

    /** Tidies; returns how many events were deleted. */
    public long run() throws IOException {
        LakeFiles files = lake.files();
        files.finishInterrupted();
        Map<String, List<String>> hours = new TreeMap<>();
        for (String each : files.current()) {
            hours.computeIfAbsent(each.substring(0, each.lastIndexOf('/')), hour -> new ArrayList<>())
                    .add(each);
        }
        hours.remove(lake.hour(Times.instant(now)));
        long deleted = 0;
        for (List<String> hour : hours.values()) {
            deleted += tidy(hour);
        }
        return deleted;
    }

    private long tidy(List<String> hour) throws IOException {
        Dataset<Row> all = lake.read(hour);
        Dataset<Row> kept = rules.retention().isEmpty() ? all : all.filter(new Keeping(rules, now));
        long deleted = rules.retention().isEmpty() ? 0 : all.count() - kept.count();
        int needed = (int) (lake.files().bytes(hour) / BYTES_OF_FILE) + 1;
        if (deleted == 0 && hour.size() < needed + MOST_FILES) {
            return 0;
        }
        String name = "tidy-" + UUID.randomUUID();
        lake.write(
                kept.repartitionByRange(needed, functions.col("service"), functions.col("time"))
                        .sortWithinPartitions("service", "time", "nanos", "number"),
                lake.files().staging(name));
        lake.files().commit(name, hour);
        lake.files().forget(name);
        return deleted;
    }

    /** Decides whether an event is kept. */
    private static final class Keeping implements FilterFunction<Row> {
        private static final long serialVersionUID = 1;

        /** A condition, and the time before which events that match it are deleted; or the window in which they are held. */
        private record Rule(String when, long from, long to) implements Serializable {}

        private final ArrayList<Rule> retention = new ArrayList<>();
        private final ArrayList<Rule> holds = new ArrayList<>();
        private transient List<Condition> conditions;
        private transient EventLines lines;

        Keeping(StoreRules rules, long now) {
            for (RetentionRule each : rules.retention()) {
                long oldest =
                        each.keep() == null ? Long.MIN_VALUE : now - each.keep().toNanos();
                retention.add(new Rule(each.when().toString(), oldest, Long.MAX_VALUE));
            }
            for (LegalHold each : rules.holds()) {
                Window window = each.during();
                holds.add(new Rule(each.when().toString(), window.from(), window.to()));
            }
        }

        @Override
        public boolean call(Row row) {
            if (lines == null) {
                lines = WrittenEvents.reader();
                conditions = new ArrayList<>();
                retention.forEach(each -> conditions.add(Condition.parse(each.when())));
                holds.forEach(each -> conditions.add(Condition.parse(each.when())));
            }
            Event event = lines.read(row.getAs("line"), 0);
            return event == null || !event.hasTime() || isHeld(event) || isYoung(event);
        }

        private boolean isHeld(Event event) {
            for (int i = 0; i < holds.size(); i++) {
                boolean isDuring = holds.get(i).from() <= event.epochNanos()
                        && event.epochNanos() <= holds.get(i).to();
                if (isDuring && conditions.get(retention.size() + i).matches(event)) {
                    return true;
                }
            }
            return false;
        }

        private boolean isYoung(Event event) {
            for (int i = 0; i < retention.size(); i++) {
                if (conditions.get(i).matches(event)) {
                    return event.epochNanos() >= retention.get(i).from();
                }
            }
            return true;
        }
    }
}
