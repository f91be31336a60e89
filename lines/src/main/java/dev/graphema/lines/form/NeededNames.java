package dev.graphema.lines.form;

import com.fasterxml.jackson.core.JsonToken;
import dev.graphema.event.Attribute;
import dev.graphema.format.JsonMember;
import dev.graphema.lines.shape.LineAttribute;
import dev.graphema.lines.shape.LineShape;
import dev.graphema.lines.shape.Meaning;
import dev.graphema.query.row.Projection;
import java.io.IOException;
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

    /** Reports that a name is repeated in its object. Without a stack trace, because nobody sees it. */
    private static final class RepeatedNameException extends IOException {
        private static final long serialVersionUID = 1;

        @Override
        public synchronized Throwable fillInStackTrace() {
            return this;
        }
    }

    /** What a projection needs, and what is counted for all names of a tree. */
    private static final class Needs {
        private final Set<String> fields;
        private final Set<LineAttribute> attributes;
        private final boolean failure;
        private final LineShape shape;
        private int known;
        private int objects;

        Needs(Set<String> fields, Set<LineAttribute> attributes, boolean failure, LineShape shape) {
            this.fields = fields;
            this.attributes = attributes;
            this.failure = failure;
            this.shape = shape;
        }

        boolean isAttribute(Meaning meaning) {
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
    private final boolean isTime;
    private final Map<String, NeededNames> members = new HashMap<>();

    /** The number of the last object that has this name. */
    private int lastObject;

    /** Null until the first group of fields. */
    private NeededNames fields;

    private NeededNames(Needs needs, String path, int depth, boolean isWhole) {
        Meaning meaning = path.isEmpty() ? Meaning.FIELD : needs.shape.meaning(path);
        this.needs = needs;
        this.path = path;
        this.depth = depth;
        this.isWhole = isWhole || needs.fields.contains(path);
        this.isScalar = this.isWhole
                || depth == 0 && ALWAYS.contains(path)
                || depth <= LineAttribute.DEEPEST && needs.isAttribute(meaning);
        this.isTime = !this.isWhole && depth == 0 && meaning.attribute() == LineAttribute.TIME && !meaning.isLoose();
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

    /** Starts a line with these names. @return the number of the object, for {@link #member} */
    int beginLine() {
        if (needs.known > MOST_KNOWN_NAMES) {
            needs.known = 0;
            members.clear();
        }
        return begin();
    }

    /** Starts an object whose name is this one. @return the number of the object, for {@link #member} */
    int begin() {
        return ++needs.objects;
    }

    /**
     * Returns a name in the line or group that this one denotes.
     *
     * @param object the number of the object
     * @throws IOException if the object has the name already, or a line has too many names to know that
     */
    NeededNames member(String name, int object) throws IOException {
        NeededNames member = members.get(name);
        if (member == null) {
            if (++needs.known > 2 * MOST_KNOWN_NAMES) {
                throw new RepeatedNameException();
            }
            member = make(name);
            members.put(name, member);
        }
        if (member.lastObject == object) {
            throw new RepeatedNameException();
        }
        member.lastObject = object;
        return member;
    }

    private NeededNames make(String name) {
        if (depth < 0 && JsonMember.FAILURE.is(name)) {
            return new NeededNames(needs, name, 0, needs.failure);
        }
        return new NeededNames(needs, path.isEmpty() ? name : path + "." + name, depth + 1, isWhole);
    }

    /** Returns the names of the group of fields in Graphema JSON, which are no attributes. */
    NeededNames ofFields() {
        if (fields == null) {
            fields = new NeededNames(needs, "", LineAttribute.DEEPEST, false);
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
            case START_OBJECT -> isWhole || isWithin || depth < LineAttribute.DEEPEST;
            case START_ARRAY -> isWhole || isWithin;
            default -> isScalar;
        };
    }

    /** Returns whether a value is only needed as the time of the event. */
    boolean isTime() {
        return isTime;
    }

    /** Returns whether all of a group with this name is needed. */
    boolean isWhole() {
        return isWhole;
    }
}
