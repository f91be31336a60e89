package dev.graphema.segments.store;

import dev.graphema.condition.Condition;
import dev.graphema.condition.ConditionException;
import dev.graphema.lines.yaml.YamlFile;
import dev.graphema.query.Window;
import dev.graphema.query.row.EventRow;
import dev.graphema.query.row.Projection;
import dev.graphema.query.typed.TimeWords;
import dev.graphema.text.Durations;
import dev.graphema.text.Nearest;
import dev.graphema.text.Sizes;
import java.io.IOException;
import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import java.util.zip.CRC32C;
import org.snakeyaml.engine.v2.nodes.Node;
import org.snakeyaml.engine.v2.nodes.NodeTuple;

/**
 * How long a store keeps its events. The rules are in the file {@value #FILE} in the folder of the store; without it, all events
 * are kept. Immutable.
 *
 * <pre>
 * retention:
 *   - {when: level &lt;= debug, keep: 3d}
 *   - {when: service = booking, keep: 90d}
 *   - {keep: 30d, total: 200GB}
 * holds:
 *   - {name: case 17, when: booking = "GR-1042", during: 2026-05-01/2026-06-01}
 * </pre>
 *
 * @param retention the retention rules; the first one that matches an event applies
 * @param holds the legal holds
 */
public record StoreRules(List<RetentionRule> retention, List<LegalHold> holds) {
    /** The name of the file. */
    public static final String FILE = "rules.yaml";

    /** Rules that keep everything. */
    public static final StoreRules KEEP_ALL = new StoreRules(List.of(), List.of());

    /** The index of the retention rule of events that no rule matches; they are kept. */
    static final int NO_RULE = -1;

    private static final Duration LONGEST = Duration.ofDays(36_500);
    private static final List<String> KEYS = List.of("retention", "holds");
    private static final List<String> RETENTION_KEYS = List.of("when", "keep", "total");
    private static final List<String> HOLD_KEYS = List.of("name", "when", "during");

    public StoreRules {
        retention = List.copyOf(retention);
        holds = List.copyOf(holds);
    }

    /**
     * Reads the rules of the store in a folder.
     *
     * @throws IOException if they cannot be read, or are invalid: the message contains file, line and expectation
     */
    public static StoreRules of(Path folder) throws IOException {
        Path file = folder.resolve(FILE);
        return Files.exists(file) ? read(file) : KEEP_ALL;
    }

    private static StoreRules read(Path file) throws IOException {
        YamlFile yaml = YamlFile.read(file);
        List<RetentionRule> retention = new ArrayList<>();
        List<LegalHold> holds = new ArrayList<>();
        for (NodeTuple each : yaml.members("retention and holds")) {
            String key = known(yaml, each.getKeyNode(), KEYS);
            for (Node element : yaml.elements(each.getValueNode())) {
                if (key.equals("retention")) {
                    retention.add(rule(yaml, element));
                } else {
                    holds.add(hold(yaml, element));
                }
            }
        }
        return new StoreRules(retention, holds);
    }

    private static String known(YamlFile yaml, Node key, List<String> expected) throws IOException {
        String text = yaml.text(key);
        if (!expected.contains(text)) {
            throw yaml.problem(
                    key,
                    "\"" + text + "\" is not known: expected one of " + String.join(", ", expected)
                            + Nearest.hint(text, expected));
        }
        return text;
    }

    private static Map<String, Node> members(YamlFile yaml, Node node, List<String> keys) throws IOException {
        Map<String, Node> members = new LinkedHashMap<>();
        for (NodeTuple each : yaml.members(node, String.join(", ", keys))) {
            members.put(known(yaml, each.getKeyNode(), keys), each.getValueNode());
        }
        return members;
    }

    private static RetentionRule rule(YamlFile yaml, Node node) throws IOException {
        Map<String, Node> members = members(yaml, node, RETENTION_KEYS);
        Duration keep = null;
        long total = Long.MAX_VALUE;
        if (members.containsKey("keep")) {
            String text = yaml.text(members.get("keep"));
            keep = Durations.parse(text);
            if (keep == null || keep.isZero() || keep.compareTo(LONGEST) > 0) {
                throw yaml.problem(
                        members.get("keep"),
                        "\"" + text + "\" is not a duration: expected one such as 30d, at most " + LONGEST.toDays()
                                + "d");
            }
        }
        if (members.containsKey("total")) {
            String text = yaml.text(members.get("total"));
            BigDecimal bytes = Sizes.parse(text);
            if (bytes == null || bytes.signum() <= 0 || bytes.compareTo(BigDecimal.valueOf(Long.MAX_VALUE)) > 0) {
                throw yaml.problem(members.get("total"), "\"" + text + "\" is not a size: expected one such as 200GB");
            }
            total = bytes.longValue();
        }
        if (keep == null && total == Long.MAX_VALUE) {
            throw yaml.problem(node, "the rule limits nothing: expected keep, total or both");
        }
        return new RetentionRule(condition(yaml, members.get("when")), keep, total);
    }

    private static LegalHold hold(YamlFile yaml, Node node) throws IOException {
        Map<String, Node> members = members(yaml, node, HOLD_KEYS);
        if (!members.containsKey("name")) {
            throw yaml.problem(node, "the hold has no name: expected name, and when or during");
        }
        Window during = Window.ALWAYS;
        if (members.containsKey("during")) {
            String text = yaml.text(members.get("during"));
            during = new TimeWords(ZoneOffset.UTC, Instant.now()).interval(text);
            if (during == null) {
                throw yaml.problem(
                        members.get("during"),
                        "\"" + text + "\" is not a valid interval: " + TimeWords.EXPECTED_INTERVAL);
            }
        }
        return new LegalHold(yaml.text(members.get("name")), condition(yaml, members.get("when")), during);
    }

    private static Condition condition(YamlFile yaml, Node node) throws IOException {
        if (node == null) {
            return Condition.EVERYTHING;
        }
        try {
            return Condition.parse(yaml.text(node), ZoneOffset.UTC);
        } catch (ConditionException e) {
            throw yaml.problem(node, e.getMessage());
        }
    }

    /** Returns the values that decide which retention rule an event has. */
    Projection needed() {
        Projection needed = Projection.of(List.of());
        for (RetentionRule rule : retention) {
            needed = needed.and(Projection.of(rule.when()));
        }
        return needed;
    }

    /** Returns the index of the retention rule of an event; {@link #NO_RULE} if none matches. */
    int ruleOf(EventRow row) {
        for (int i = 0; i < retention.size(); i++) {
            Condition when = retention.get(i).when();
            if (when.isEverything() || when.matches(row.event())) {
                return i;
            }
        }
        return NO_RULE;
    }

    /** Returns the index of the rule of what is no event. */
    int ruleOfOthers() {
        return retention.isEmpty() ? NO_RULE : retention.size() - 1;
    }

    /** Returns what a rule is called in reports. */
    String name(int rule) {
        RetentionRule it = retention.get(rule);
        return "rule " + (rule + 1) + ": " + it;
    }

    /** Returns a text that is the same as long as each event has the same rule. */
    String retentionKey() {
        return key(retention.stream().map(rule -> rule.when().toString()));
    }

    /** As {@link #retentionKey}, for the legal holds. */
    String holdsKey() {
        return key(holds.stream().map(hold -> hold.when() + " " + hold.during()));
    }

    private static String key(Stream<String> texts) {
        CRC32C crc = new CRC32C();
        crc.update(texts.collect(Collectors.joining("\n")).getBytes(StandardCharsets.UTF_8));
        return HexFormat.of().toHexDigits((int) crc.getValue());
    }

    /** Returns the length of the periods whose events are in segments of their own, so that whole segments can be deleted. */
    int hoursOfPeriod(int rule) {
        Duration keep = rule < 0 ? null : retention.get(rule).keep();
        return keep != null && keep.compareTo(Duration.ofDays(3)) < 0 ? 1 : 24;
    }
}
