package dev.graphema.lines.json;

import dev.graphema.condition.Name;
import dev.graphema.event.Level;
import dev.graphema.format.JsonMember;
import dev.graphema.lines.shape.Levels;
import dev.graphema.lines.shape.LineAttribute;
import dev.graphema.lines.shape.LineShape;
import dev.graphema.lines.shape.Meaning;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * A name in lines of another program's JSON, and how its value is used. The names form a tree, as the groups in the lines
 * do; its root is the line. For one thread.
 */
final class ForeignName {
    private static final int MOST_KNOWN_NAMES = 4_000;
    private static final int MOST_KNOWN_LEVELS = 100;

    /** Names at the top of a line whose values have a meaning of their own; such lines are rare. */
    private static final Set<String> SPECIAL = Set.of(
            JsonMember.SEQUENCE.text(),
            JsonMember.ID.text(),
            JsonMember.REPEAT.text(),
            JsonMember.HELD.text(),
            JsonMember.WEIGHT.text(),
            JsonMember.FIELDS.text(),
            JsonMember.FINGERPRINT.text(),
            JsonMember.FAILURE.text());

    /** What all names of a tree share. */
    private static final class Tree {
        private final LineShape shape;
        private final Name[] projected;
        private int known;
        private int objects;

        Tree(LineShape shape, Name... projected) {
            this.shape = shape;
            this.projected = projected;
        }
    }

    private final Tree tree;
    private final int depth;

    /** The name with its closing quote. */
    private final byte[] bytes;

    /** The names from the outermost group on, separated by dots. */
    final String path;

    final Meaning meaning;

    /** The index of the projected field with this path; negative if there is none. */
    final int place;

    /** Whether a projected field is within a group with this name. */
    final boolean isWithin;

    /** Whether a line with this name must be read completely. */
    final boolean isSpecial;

    private final Map<Object, Optional<Level>> levels = new HashMap<>();

    /** The name that followed this one last, and the first one in a group with this name. */
    private ForeignName next;

    private ForeignName first;
    private final Map<String, ForeignName> members = new HashMap<>();
    private int lastObject;

    /** The root of the names of a shape, of which these are projected. */
    ForeignName(LineShape shape, Name... projected) {
        this(new Tree(shape, projected), "", "", -1);
    }

    private ForeignName(Tree tree, String name, String path, int depth) {
        this.tree = tree;
        this.path = path;
        this.depth = depth;
        this.bytes = (name + '"').getBytes(StandardCharsets.UTF_8);
        boolean mayBeAttribute = depth >= 0 && depth <= LineAttribute.DEEPEST;
        this.meaning = mayBeAttribute ? tree.shape.meaning(path) : Meaning.FIELD;
        this.isSpecial = depth == 0 && SPECIAL.contains(path);
        int found = -1;
        boolean within = depth < 0;
        for (int i = 0; i < tree.projected.length; i++) {
            String field = tree.projected[i].field();
            if (field != null) {
                found = field.equals(path) ? i : found;
                within |= field.startsWith(path + ".");
            }
        }
        this.place = found;
        this.isWithin = within;
    }

    /**
     * Starts an object whose name is this one.
     *
     * @return the number of the object, for {@link #member}
     */
    int begin() {
        return ++tree.objects;
    }

    /** Starts a line; this is the root. */
    void beginLine() {
        if (tree.known > MOST_KNOWN_NAMES) {
            tree.known = 0;
            first = null;
            members.clear();
        }
    }

    /**
     * Returns the name in this group that begins at the position, after its quote. Names mostly come in the same order as in
     * the line before.
     *
     * @param before the name before it in this object; null for none
     * @param end the end of the line
     * @param object the number of the object
     * @return null if it is repeated in the object, or has an escape, or the line has too many names
     */
    ForeignName member(ForeignName before, byte[] line, int at, int end, int object) {
        ForeignName expected = before == null ? first : before.next;
        ForeignName found =
                expected != null && Bytes.areAt(expected.bytes, line, at, end) ? expected : searched(line, at, end);
        if (found == null || found.lastObject == object) {
            return null;
        }
        found.lastObject = object;
        if (before == null) {
            first = found;
        } else {
            before.next = found;
        }
        return found;
    }

    private ForeignName searched(byte[] line, int at, int end) {
        int quote = Bytes.indexOf('"', '\\', line, at, end);
        if (quote < 0 || line[quote] == '\\') {
            return null;
        }
        String name = new String(line, at, quote - at, StandardCharsets.UTF_8);
        ForeignName known = members.get(name);
        if (known == null && ++tree.known <= 2 * MOST_KNOWN_NAMES) {
            known = new ForeignName(tree, name, path.isEmpty() ? name : path + "." + name, depth + 1);
            members.put(name, known);
        }
        return known;
    }

    /** Returns the level that a text or a whole number means under this name; null if none. */
    Level level(Object value) {
        if (levels.size() > MOST_KNOWN_LEVELS) {
            levels.clear();
        }
        return levels.computeIfAbsent(value, this::computed).orElse(null);
    }

    private Optional<Level> computed(Object value) {
        return Optional.ofNullable(
                value instanceof String word ? Levels.of(path, word) : Levels.ofNumber(path, (long) value));
    }

    /** Returns the length in bytes, with the quote. */
    int length() {
        return bytes.length;
    }

    @Override
    public String toString() {
        return path + Arrays.asList(meaning, place);
    }
}
