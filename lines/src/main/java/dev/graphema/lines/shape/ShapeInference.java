package dev.graphema.lines.shape;

import dev.graphema.lines.time.DateOrder;
import dev.graphema.lines.time.TimeReader;
import dev.graphema.lines.time.TimeRules;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.ToDoubleFunction;

/**
 * Infers the shape of a log from its first lines: which names are attributes, if the names are not known but their values
 * leave no doubt; the order of day and month; and whether lines of text begin with a time, and a level behind it. For one
 * thread.
 */
public final class ShapeInference {
    private static final int MOST_NAMES = 2_000;
    private static final int DEEPEST = 3;

    /** Names that only values show come behind all others. */
    private static final int RANK = Meaning.CERTAIN + 19;

    private final TimeReader reader;
    private final Map<String, NameStatistics> names = new LinkedHashMap<>();

    /** Values that have their names by their place in the line. */
    private final Map<String, NameStatistics> placed = new LinkedHashMap<>();

    private long structured;
    private long texts;
    private long timed;
    private long withLevel;
    private DateOrder order;
    private boolean isOrderDisputed;

    /** @param rules what is known of the times */
    public ShapeInference(TimeRules rules) {
        reader = new TimeReader(rules);
    }

    /**
     * Adds a value of a line.
     *
     * @param isNamed whether the name is in the line, and not only known by the place
     */
    public void value(String name, Object value, boolean isNamed) {
        value(name, value, isNamed ? names : placed, 1);
    }

    private void value(String name, Object value, Map<String, NameStatistics> to, int depth) {
        if (value instanceof Map<?, ?> group) {
            if (depth < DEEPEST) {
                group.forEach((inner, each) -> value(name + "." + inner, each, to, depth + 1));
            }
            return;
        }
        NameStatistics known = to.get(name);
        if (known == null && to.size() < MOST_NAMES) {
            known = new NameStatistics(name);
            to.put(name, known);
        }
        if (known != null) {
            known.add(value, reader);
        }
        if (value instanceof String text && reader.parse(text) != null) {
            proven(reader.provenOrder());
        }
    }

    /** Adds the end of a line of names and values. */
    public void structuredLine() {
        structured++;
    }

    /**
     * Adds a line of text.
     *
     * @param beginsWithTime whether it begins with a time
     * @param hasLevel whether a word of the level follows the time
     */
    public void textLine(boolean beginsWithTime, boolean hasLevel) {
        texts++;
        timed += beginsWithTime ? 1 : 0;
        withLevel += hasLevel ? 1 : 0;
    }

    private void proven(DateOrder proven) {
        isOrderDisputed |= proven != null && order != null && proven != order;
        order = proven == null ? order : proven;
    }

    /** Returns the shape. */
    public InferredShape shape() {
        Map<String, Meaning> meanings = new HashMap<>();
        if (!isNamed(LineAttribute.TIME)) {
            add(meanings, LineAttribute.TIME, each -> each.isTime(structured) ? 2 : each.isEpoch(structured) ? 1 : 0);
        }
        if (!isNamed(LineAttribute.LEVEL)) {
            add(meanings, LineAttribute.LEVEL, each -> each.isLevel(structured) ? 1 : 0);
        }
        if (!isNamed(LineAttribute.MESSAGE)) {
            add(meanings, LineAttribute.MESSAGE, each -> each.sentenceWords(structured));
        }
        return new InferredShape(
                meanings,
                isOrderDisputed ? null : order,
                timed > 0 && timed * 2 >= texts,
                withLevel * 5 >= timed * 4 && timed > 0);
    }

    /** Returns the names under which values are read with a shape, attributes first. */
    public List<NameUse> names(LineShape shape) {
        List<NameUse> uses = new ArrayList<>();
        names.values().forEach(each -> uses.add(use(each, shape, reason(each.name(), shape))));
        placed.values().forEach(each -> uses.add(use(each, shape, NameUse.Reason.PLACE)));
        Comparator<NameUse> attributesFirst =
                Comparator.comparing(NameUse::attribute, Comparator.nullsLast(Comparator.naturalOrder()));
        uses.sort(attributesFirst);
        return uses;
    }

    private static NameUse use(NameStatistics name, LineShape shape, NameUse.Reason reason) {
        LineAttribute attribute = shape.meaning(name.name()).attribute();
        return new NameUse(name.name(), attribute, attribute == null ? null : reason, name.count(), name.example());
    }

    private static NameUse.Reason reason(String name, LineShape shape) {
        boolean isInferred =
                !shape.mapping().containsKey(name) && shape.inferred().names().containsKey(name);
        return isInferred ? NameUse.Reason.VALUES : NameUse.Reason.NAME;
    }

    /** Whether a name is known as that of this attribute, so that its values need not be examined. */
    private boolean isNamed(LineAttribute attribute) {
        return names.keySet().stream().map(CommonNames::meaning).anyMatch(each -> each.attribute() == attribute);
    }

    /** Adds the name with the highest positive score, the first one of several. */
    private void add(Map<String, Meaning> to, LineAttribute attribute, ToDoubleFunction<NameStatistics> score) {
        NameStatistics best = null;
        double most = 0;
        for (NameStatistics each : names.values()) {
            double of = CommonNames.meaning(each.name()).isField() && !to.containsKey(each.name())
                    ? score.applyAsDouble(each)
                    : 0;
            if (of > most) {
                best = each;
                most = of;
            }
        }
        if (best != null) {
            to.put(best.name(), new Meaning(attribute, RANK));
        }
    }
}
