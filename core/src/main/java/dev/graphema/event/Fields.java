package dev.graphema.event;

import dev.graphema.text.Decimals;
import dev.graphema.text.Times;
import java.math.BigDecimal;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.function.Consumer;
import java.util.function.Predicate;
import java.util.function.UnaryOperator;

/**
 * Named, typed values in the order in which they were put. Immutable once visible outside this package, and
 * thread-safe.
 *
 * <p>The tree is stored in parallel arrays: entry {@code i} has a name (null for an item of a list), a kind, and a
 * value in {@code bits} (integers, doubles, booleans) or in {@code refs} (all others). The bits of a text are zero, or
 * the complete length of a text that is too long and still to be cut. The bits of a group or list are the index after
 * its last descendant. Fields of any depth therefore consist of a few arrays, and numbers are not boxed.
 */
public final class Fields {
    /** No fields. */
    public static final Fields NONE = new Fields(0);

    private static final long SMALLEST_NUMBER_WORTH_READING_AS_TEXT = 1_000_000_000_000L;

    /** The usual maximum of fields of a context; more make the arrays grow. */
    private static final int FEW = 4;

    /** The longest arrays that are used for another event. */
    private static final int MOST_KEPT = 64;

    /** Spreads hashes, which are often alike in their last bits: 2^32 divided by the golden ratio. */
    private static final int GOLDEN = 0x9E3779B9;

    private static final Kind[] KINDS = Kind.values();
    private static final byte TEXT = (byte) Kind.TEXT.ordinal();
    private static final int FIRST_TREE = Kind.GROUP.ordinal();

    private String[] names;
    private byte[] kinds;
    private long[] bits;
    private Object[] refs;
    private int size;

    /** Whether a text was recorded in part, and its bits hold the complete length. */
    private boolean hasCutTexts;

    /** A bit set of hashes of the names: a name whose bit is not set is missing. */
    private long nameBits;

    // Known of the fields of a context, which are part of many events. A thread that does not see it, finds it out.

    /** The {@linkplain SensitiveValues#id id} of a redaction that changes none of these fields, or 0. */
    private long keptBy;

    /** The entries in the form of {@link EventBytes}, or null. Volatile, so that other threads see all bytes. */
    private volatile byte[] encoded;

    Fields(int capacity) {
        names = new String[capacity];
        kinds = new byte[capacity];
        bits = new long[capacity];
        refs = new Object[capacity];
    }

    /** Captures the fields that the consumer puts. */
    public static Fields of(Consumer<? super FieldWriter> writing) {
        Fields fields = of(writing, SensitiveValues.FIXED);
        if (fields.hasCutTexts) {
            fields.cutTexts(Bounds.EMITTING);
        }
        return fields;
    }

    /**
     * As above, for fields of events: texts that are too long are cut after redaction.
     *
     * @param sensitive provides the replacements of sensitive values
     */
    public static Fields of(Consumer<? super FieldWriter> writing, SensitiveValues sensitive) {
        FieldRecorder recorder = new FieldRecorder(Bounds.EMITTING).open(new Fields(FEW), sensitive, null);
        recorder.record(writing);
        return recorder.release();
    }

    /** Returns the fields of both; if names are equal, those of the first. */
    public static Fields union(Fields first, Fields second) {
        if (second.isEmpty()) {
            return first;
        }
        if (first.isEmpty()) {
            return second;
        }
        Fields both = new Fields(first.size + second.size);
        both.addMissing(first);
        both.addMissing(second);
        return both;
    }

    public boolean isEmpty() {
        return size == 0;
    }

    /** Returns the number of top-level fields. */
    public int count() {
        int count = 0;
        for (int i = 0; i < size; i = next(i)) {
            count++;
        }
        return count;
    }

    /** Returns the names of the top-level fields, in order. */
    public List<String> names() {
        List<String> top = new ArrayList<>();
        for (int i = 0; i < size; i = next(i)) {
            top.add(names[i]);
        }
        return top;
    }

    /**
     * Returns the value of a field: String, Long, Double, BigDecimal, Boolean, Instant, Duration, a Map for a group, a
     * List for a list, or null if the field is missing or null. A dot separates groups.
     */
    public Object get(String path) {
        int index = find(path, 0, size);
        return index < 0 ? null : boxed(index);
    }

    public boolean has(String path) {
        return find(path, 0, size) >= 0;
    }

    /**
     * Returns all fields as unmodifiable maps, lists and boxed values, in order. For tests and tools, not for the hot
     * path.
     */
    public Map<String, Object> toMap() {
        BoxedFields boxed = new BoxedFields();
        visit(boxed);
        return boxed.all();
    }

    /** Returns whether the field exists and its value, or any of its items, passes the test. */
    public boolean test(String path, ValuePredicate test) {
        int index = find(path, 0, size);
        return index >= 0 && test(index, test);
    }

    /** Returns whether any text passes the test. */
    public boolean anyText(Predicate<String> test) {
        for (int i = 0; i < size; i++) {
            if (kind(i) == Kind.TEXT && test.test((String) refs[i])) {
                return true;
            }
        }
        return false;
    }

    /** Passes all fields to the visitor, in order. */
    public void visit(FieldVisitor visitor) {
        visit(visitor, 0, size);
    }

    /**
     * Passes one field to the visitor, without its name; a dot separates groups.
     *
     * @return false if it is missing
     */
    public boolean visit(String path, FieldVisitor visitor) {
        int index = find(path, 0, size);
        if (index >= 0) {
            visitOne(visitor, index, null);
        }
        return index >= 0;
    }

    @Override
    public boolean equals(Object other) {
        return other instanceof Fields that && toMap().equals(that.toMap());
    }

    @Override
    public int hashCode() {
        return toMap().hashCode();
    }

    @Override
    public String toString() {
        return toMap().toString();
    }

    int size() {
        return size;
    }

    /** Returns the name of an entry; null for an item of a list. */
    String name(int index) {
        return names[index];
    }

    /** Returns the value of an entry with a number or boolean, as described above. */
    long bits(int index) {
        return bits[index];
    }

    /** Returns the value of an entry that is neither a number nor a boolean. */
    Object ref(int index) {
        return refs[index];
    }

    /** Adds an entry of another tree that is not a group or list. */
    void addOne(Fields other, int index) {
        hasCutTexts |= other.hasCutTexts;
        add(other.names[index], other.kind(index), other.bits[index], other.refs[index]);
    }

    void add(String name, Kind kind, long bit, Object ref) {
        ensure(size + 1);
        names[size] = name;
        kinds[size] = (byte) kind.ordinal();
        bits[size] = bit;
        refs[size] = ref;
        size++;
        nameBits |= name == null ? 0 : bit(name);
    }

    static long bit(String name) {
        return 1L << (name.hashCode() * GOLDEN >>> Integer.SIZE - 6);
    }

    /** Begins a group or list, which contains the entries that are added until {@link #end}. */
    int begin(String name, Kind kind) {
        add(name, kind, 0, null);
        return size - 1;
    }

    void end(int index) {
        bits[index] = size;
    }

    void takesInPart() {
        hasCutTexts = true;
    }

    /** Whether texts were recorded in part and are still to be cut. */
    boolean hasCutTexts() {
        return hasCutTexts;
    }

    /** Cuts the texts that were recorded in part, after redaction. */
    void cutTexts(Bounds bounds) {
        for (int i = 0; i < size; i++) {
            if (kind(i) == Kind.TEXT && bits[i] != 0) {
                refs[i] = bounds.cut((String) refs[i], bits[i]);
                bits[i] = 0;
            }
        }
        hasCutTexts = false;
    }

    void cutBack(int to) {
        Arrays.fill(refs, to, size, null);
        size = to;
    }

    /**
     * Removes all entries.
     *
     * @return false if the arrays are too large, or too small, to be used again
     */
    boolean clear() {
        if (names.length > MOST_KEPT || names.length == 0) {
            return false;
        }
        Arrays.fill(names, 0, size, null);
        cutBack(0);
        nameBits = 0;
        hasCutTexts = false;
        return true;
    }

    /** Returns the index of the entry with this name from {@code from} on, without nested entries, or -1. */
    int indexOf(String name, int from) {
        if ((nameBits & bit(name)) == 0) {
            return -1;
        }
        for (int i = from; i < size; i = next(i)) {
            if (isSame(name, names[i])) {
                return i;
            }
        }
        return -1;
    }

    /** Moves the last entry, added at {@code from}, to the place of an earlier one of the same name at {@code to}. */
    void replace(int to, int from) {
        if (isTree(to) || isTree(from)) {
            // Index arithmetic inside trees is not worth it for so rare a case: the earlier one is removed, and the
            // later one stays where it is.
            remove(to);
            return;
        }
        kinds[to] = kinds[from];
        bits[to] = bits[from];
        refs[to] = refs[from];
        cutBack(from);
    }

    /**
     * Adds the entries of the other whose names are missing.
     *
     * @return whether all were added
     */
    boolean addMissing(Fields other) {
        if ((nameBits & other.nameBits) == 0) {
            copy(other, 0, other.size);
            return true;
        }
        int own = size;
        for (int i = 0; i < other.size; i = other.next(i)) {
            if (!hasName(other.names[i], own)) {
                copy(other, i, other.next(i));
            }
        }
        return size == own + other.size;
    }

    /** Returns whether the redaction is known to change neither a name nor a value. */
    boolean isKeptBy(SensitiveValues redaction, long id) {
        if (keptBy == id && id != 0) {
            return true;
        }
        for (int i = 0; i < size; i++) {
            String text = textToRewrite(i);
            if (names[i] != null && !redaction.keepsField(names[i]) || text != null && !redaction.keepsText(text)) {
                return false;
            }
        }
        keptBy = id;
        return true;
    }

    long nameBits() {
        return nameBits;
    }

    /** Returns the entries as {@link EventBytes} writes them, or null if that is not known. */
    byte[] encoded() {
        return encoded;
    }

    void setEncoded(byte[] bytes) {
        encoded = bytes;
    }

    /**
     * Applies the operator to all texts of a range of entries. A whole number with as many digits as an account number is
     * passed as text, and becomes text if the operator changes it. Numbers with a fraction are not.
     */
    void rewrite(UnaryOperator<String> operator, int from, int to) {
        for (int i = from; i < to; i++) {
            String before = textToRewrite(i);
            if (before != null) {
                String after = operator.apply(before);
                if (after != before && !after.equals(before)) {
                    bits[i] = kinds[i] == TEXT ? bits[i] : 0;
                    kinds[i] = TEXT;
                    refs[i] = after;
                }
            }
        }
    }

    /** Applies the operator to the names of a range. */
    void rewriteNames(UnaryOperator<String> operator, int from, int to) {
        for (int i = from; i < to; i++) {
            String before = names[i];
            String after = before == null ? null : operator.apply(before);
            if (after != before) {
                names[i] = after;
                nameBits |= bit(after);
            }
        }
    }

    /** Returns whether the rewriter may rewrite a field in a range. */
    boolean hasMatch(FieldRewriter rewriter, int from, int to) {
        for (int i = from; i < to; i++) {
            if (names[i] != null && rewriter.canMatch(names[i])) {
                return true;
            }
        }
        return false;
    }

    /** Returns the fields after rewriting; these if none is rewritten. */
    Fields rewrite(FieldRewriter rewriter) {
        return new Rewritten(this, rewriter).get();
    }

    Object boxed(int i) {
        return switch (kind(i)) {
            case INTEGER -> bits[i];
            case REAL -> Double.longBitsToDouble(bits[i]);
            case BOOLEAN -> bits[i] != 0;
            case GROUP, LIST -> {
                BoxedFields boxed = new BoxedFields();
                visitOne(boxed, i, "");
                yield boxed.first();
            }
            default -> refs[i];
        };
    }

    private String textToRewrite(int i) {
        return kinds[i] == TEXT ? (String) refs[i] : longNumber(kind(i), bits[i], refs[i]);
    }

    static boolean isLongNumber(long value) {
        return value >= SMALLEST_NUMBER_WORTH_READING_AS_TEXT || value <= -SMALLEST_NUMBER_WORTH_READING_AS_TEXT;
    }

    /** Returns a whole number with as many digits as an account number as text; null for other values. */
    static String longNumber(Kind kind, long bits, Object ref) {
        return switch (kind) {
            case INTEGER -> isLongNumber(bits) ? Long.toString(bits) : null;
            case REAL -> {
                double value = Double.longBitsToDouble(bits);
                boolean isWhole = Math.rint(value) == value && Double.isFinite(value);
                yield isWhole && Math.abs(value) >= SMALLEST_NUMBER_WORTH_READING_AS_TEXT
                        ? new BigDecimal(value).toPlainString()
                        : null;
            }
            case DECIMAL -> {
                BigDecimal value = (BigDecimal) ref;
                yield value.precision() > 12 && Decimals.isWhole(value) ? Decimals.text(value) : null;
            }
            default -> null;
        };
    }

    private boolean hasName(String name, int before) {
        for (int i = 0; i < before; i = next(i)) {
            if (isSame(name, names[i])) {
                return true;
            }
        }
        return false;
    }

    private void copy(Fields other, int from, int to) {
        int count = to - from;
        ensure(size + count);
        System.arraycopy(other.names, from, names, size, count);
        System.arraycopy(other.kinds, from, kinds, size, count);
        System.arraycopy(other.bits, from, bits, size, count);
        System.arraycopy(other.refs, from, refs, size, count);
        int shift = size - from;
        size += count;
        hasCutTexts |= other.hasCutTexts;
        nameBits |= other.nameBits;
        for (int i = size - count; i < size; i++) {
            bits[i] += isTree(i) ? shift : 0;
        }
    }

    private void remove(int index) {
        int end = next(index);
        int gone = end - index;
        for (int i = end; i < size; i++) {
            names[i - gone] = names[i];
            kinds[i - gone] = kinds[i];
            bits[i - gone] = isTree(i) ? bits[i] - gone : bits[i];
            refs[i - gone] = refs[i];
        }
        cutBack(size - gone);
    }

    private void ensure(int wanted) {
        if (wanted > names.length) {
            int capacity = Math.max(wanted, Math.max(8, size * 2));
            names = Arrays.copyOf(names, capacity);
            kinds = Arrays.copyOf(kinds, capacity);
            bits = Arrays.copyOf(bits, capacity);
            refs = Arrays.copyOf(refs, capacity);
        }
    }

    int next(int index) {
        return isTree(index) ? (int) bits[index] : index + 1;
    }

    Kind kind(int index) {
        return KINDS[kinds[index]];
    }

    boolean isTree(int index) {
        return kinds[index] >= FIRST_TREE; // nothing comes behind them in the order of kinds
    }

    /** Names are usually literals with a cached hash: comparing it excludes most of them. */
    private static boolean isSame(String name, String other) {
        return name == other || other != null && name.hashCode() == other.hashCode() && name.equals(other);
    }

    private int find(String path, int from, int to) {
        for (int i = from; i < to; i = next(i)) {
            String name = names[i];
            if (name == null) {
                continue;
            }
            if (name.equals(path)) {
                return i;
            }
            if (kind(i) == Kind.GROUP
                    && path.length() > name.length()
                    && path.charAt(name.length()) == '.'
                    && path.startsWith(name)) {
                int inside = find(path.substring(name.length() + 1), i + 1, (int) bits[i]);
                if (inside >= 0) {
                    return inside;
                }
            }
        }
        return -1;
    }

    private boolean test(int i, ValuePredicate test) {
        return switch (kind(i)) {
            case TEXT -> test.text((String) refs[i]);
            case INTEGER -> test.integer(bits[i]);
            case REAL -> test.real(Double.longBitsToDouble(bits[i]));
            case DECIMAL -> test.decimal((BigDecimal) refs[i]);
            case BOOLEAN -> test.bool(bits[i] != 0);
            case TIME -> test.time(Times.epochNanos((Instant) refs[i]));
            case DURATION -> test.duration((Duration) refs[i]);
            case NOTHING -> test.nothing();
            case GROUP -> test.group();
            case LIST -> bits[i] == i + 1 ? test.emptyList() : anyItem(i, test);
        };
    }

    private boolean anyItem(int list, ValuePredicate test) {
        for (int i = list + 1; i < bits[list]; i = next(i)) {
            if (test(i, test)) {
                return true;
            }
        }
        return false;
    }

    private void visit(FieldVisitor visitor, int from, int to) {
        for (int i = from; i < to; i = next(i)) {
            visitOne(visitor, i, names[i]);
        }
    }

    private void visitOne(FieldVisitor visitor, int i, String name) {
        switch (kind(i)) {
            case TEXT -> visitor.text(name, (String) refs[i]);
            case INTEGER -> visitor.integer(name, bits[i]);
            case REAL -> visitor.real(name, Double.longBitsToDouble(bits[i]));
            case DECIMAL -> visitor.decimal(name, (BigDecimal) refs[i]);
            case BOOLEAN -> visitor.bool(name, bits[i] != 0);
            case TIME -> visitor.time(name, (Instant) refs[i]);
            case DURATION -> visitor.duration(name, (Duration) refs[i]);
            case NOTHING -> visitor.nothing(name);
            case GROUP -> {
                visitor.beginGroup(name);
                visit(visitor, i + 1, (int) bits[i]);
                visitor.endGroup();
            }
            case LIST -> {
                visitor.beginList(name);
                visit(visitor, i + 1, (int) bits[i]);
                visitor.endList();
            }
        }
    }

    /** Builds fields with those changed or omitted that a rewriter selects by name. */
    private static final class Rewritten {
        private final Fields from;
        private final FieldRewriter rewriter;
        private final Fields to;

        Rewritten(Fields from, FieldRewriter rewriter) {
            this.from = from;
            this.rewriter = rewriter;
            this.to = new Fields(from.size());
        }

        /** Returns the fields; the same object if nothing is rewritten. */
        Fields get() {
            return copy("", false, 0, from.size()) ? to : from;
        }

        /**
         * @param path the path of the group; if the rewriter selects the group, the path that selects it
         * @return whether anything is different
         */
        private boolean copy(String path, boolean meant, int begin, int end) {
            boolean changed = false;
            for (int i = begin; i < end; i = from.next(i)) {
                String name = from.name(i);
                String here = name == null ? path : path.isEmpty() ? name : path + "." + name;
                boolean isSelected = meant || name != null && rewriter.matches(here);
                isSelected &= from.kind(i) != Kind.BOOLEAN || rewriter.matchesBoolean(meant ? path : here);
                String by = meant ? path : here;
                if (isSelected && rewriter.removes(by)) {
                    changed = true;
                } else if (from.isTree(i)) {
                    int index = to.begin(name, from.kind(i));
                    changed |= copy(by, isSelected, i + 1, from.next(i));
                    to.end(index);
                } else if (isSelected && from.kind(i) != Kind.NOTHING) {
                    changed = true;
                    to.add(name, Kind.TEXT, 0, rewriter.value(by, String.valueOf(from.boxed(i))));
                } else {
                    to.addOne(from, i);
                }
            }
            return changed;
        }
    }
}
