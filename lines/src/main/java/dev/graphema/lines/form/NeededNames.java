package dev.graphema.lines.form;

import com.fasterxml.jackson.core.JsonToken;
import dev.graphema.event.Attribute;
import dev.graphema.format.JsonMember;
import dev.graphema.lines.shape.LineAttribute;
import dev.graphema.lines.shape.LineShape;
import dev.graphema.lines.shape.Meaning;
import dev.graphema.query.row.Projection;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.HashSet;
import java.util.Map;
import java.util.Set;

/**
 * A name in lines of JSON, and whether its value is needed for a projection; the values of other names can be skipped. The
 * names form a tree, as the groups in the lines do. For one thread.
 */
public final class NeededNames {
    private static final int MOST_KNOWN_NAMES = 2_000;

    /** Members of Graphema JSON that are always read: they are short, rare, or part of every projection. */
    private static final Set<String> ALWAYS = Set.of(
            JsonMember.SEQUENCE.text(),
            JsonMember.ID.text(),
            JsonMember.REPEAT.text(),
            JsonMember.HELD.text(),
            JsonMember.WEIGHT.text());

    /** What a projection needs. */
    private record Needs(Set<String> fields, Set<LineAttribute> attributes, boolean failure, LineShape shape) {
        boolean isAttribute(String name) {
            Meaning meaning = shape.meaning(name);
            return !meaning.isField() && attributes.contains(meaning.attribute());
        }

        boolean isWithin(String group) {
            return fields.stream().anyMatch(field -> field.startsWith(group + "."));
        }
    }

    private final Needs needs;

    /** The names from the outermost group on, separated by dots; empty for the line itself and for its group of fields. */
    private final String path;

    /** How many groups contain the name; -1 for the line. */
    private final int depth;

    private final boolean isWhole;
    private final boolean isScalar;
    private final boolean isWithin;
    private final Map<String, NeededNames> members = new HashMap<>();

    /** Null until the first group of fields. */
    private NeededNames fields;

    private NeededNames(Needs needs, String path, int depth, boolean isWhole) {
        this.needs = needs;
        this.path = path;
        this.depth = depth;
        this.isWhole = isWhole || needs.fields().contains(path);
        this.isScalar = this.isWhole
                || depth == 0 && ALWAYS.contains(path)
                || depth <= EventAssembler.DEEPEST_ATTRIBUTE && needs.isAttribute(path);
        this.isWithin = path.isEmpty() || needs.isWithin(path);
    }

    /**
     * Returns the names of a line of which a projection needs values.
     *
     * @param shape the meaning of the names
     */
    public static NeededNames of(Projection projection, LineShape shape) {
        Set<String> fields = new HashSet<>(shape.asked());
        Set<LineAttribute> attributes = EnumSet.of(LineAttribute.TIME, LineAttribute.LEVEL, LineAttribute.TRACE);
        projection.listed().forEach(name -> {
            if (name.attribute() == null) {
                fields.add(name.field());
            } else {
                add(name.attribute(), attributes);
            }
        });
        Needs needs = new Needs(fields, attributes, projection.hasFailure(), shape);
        return new NeededNames(needs, "", -1, false);
    }

    private static void add(Attribute attribute, Set<LineAttribute> to) {
        switch (attribute) {
            case SERVICE -> to.add(LineAttribute.SERVICE);
            case INSTANCE -> to.add(LineAttribute.INSTANCE);
            case LOGGER -> to.add(LineAttribute.LOGGER);
            case MESSAGE -> to.add(LineAttribute.MESSAGE);
            case THREAD -> to.add(LineAttribute.THREAD);
            case SPAN -> to.add(LineAttribute.SPAN);
            case PARENT -> to.add(LineAttribute.PARENT);
            case FAILURE_TYPE, FAILURE_MESSAGE, FAILURE_FINGERPRINT ->
                to.addAll(EnumSet.of(
                        LineAttribute.FAILURE_TYPE, LineAttribute.FAILURE_MESSAGE, LineAttribute.FAILURE_TEXT));
            default -> {
                // always read
            }
        }
    }

    /** Returns a name in the line or group that this one denotes. */
    NeededNames member(String name) {
        NeededNames member = members.get(name);
        if (member == null) {
            if (members.size() >= MOST_KNOWN_NAMES) {
                members.clear();
            }
            member = make(name);
            members.put(name, member);
        }
        return member;
    }

    private NeededNames make(String name) {
        if (depth < 0 && JsonMember.FAILURE.is(name)) {
            return new NeededNames(needs, name, 0, needs.failure());
        }
        return new NeededNames(needs, path.isEmpty() ? name : path + "." + name, depth + 1, isWhole);
    }

    /** Returns the names of the group of fields in Graphema JSON, which are no attributes. */
    NeededNames ofFields() {
        if (fields == null) {
            fields = new NeededNames(needs, "", EventAssembler.DEEPEST_ATTRIBUTE, false);
        }
        return fields;
    }

    /**
     * Returns whether a value of the name is needed, or a part of it.
     *
     * @param value its first token
     */
    boolean isNeeded(JsonToken value) {
        return switch (value) {
            case START_OBJECT -> isWhole || isWithin || depth < EventAssembler.DEEPEST_ATTRIBUTE;
            case START_ARRAY -> isWhole || isWithin;
            default -> isScalar;
        };
    }

    /** Returns whether all of a group with this name is needed. */
    boolean isWhole() {
        return isWhole;
    }
}
