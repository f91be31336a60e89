package dev.graphema.event;

import dev.graphema.failure.FailurePolicy;
import java.util.function.Consumer;

/**
 * Writes {@link Fields} within limits. Values and functions of the program may do anything; an exception affects only
 * its own field.
 */
final class FieldRecorder implements FieldWriter {
    /** The name of the field that describes an exception of a function that adds fields. */
    static final String FAILED = "fields_failed";

    private final Bounds bounds;
    private SensitiveValues sensitive;
    private Fields fields;

    /** The fields as bytes; null if there never were any. */
    private FieldBytes packed;

    /** Whether fields are added to these bytes: until something is not possible with them, and they are unpacked. */
    private boolean isPacked;

    private Thread owner;
    private Capture capture;
    private int groupStart;
    private int width;
    private int depth;
    private boolean inList;

    FieldRecorder(Bounds bounds) {
        this.bounds = bounds;
    }

    /** Calls a function of the program; an exception becomes a field. */
    void record(Consumer<? super FieldWriter> writing) {
        try {
            writing.accept(this);
        } catch (Throwable e) {
            FailurePolicy.contain(e);
            put(FAILED, e.getClass().getName());
        }
    }

    /** Sets the destination of further fields. */
    void into(Fields others) {
        fields = others;
        isPacked = false;
    }

    /**
     * Begins to write.
     *
     * @param empty the destination of fields
     * @param replacements provides the replacements of sensitive values
     * @param by the only thread whose calls are not ignored; null for any
     */
    FieldRecorder open(Fields empty, SensitiveValues replacements, Thread by) {
        fields = empty;
        if (sensitive != replacements) {
            sensitive = replacements;
        }
        if (owner != by) {
            owner = by;
        }
        groupStart = 0;
        width = 0;
        depth = 0;
        inList = false;
        return this;
    }

    /** Begins to write fields as bytes; otherwise as above. */
    void open(FieldBytes empty, SensitiveValues replacements, Thread by) {
        open((Fields) null, replacements, by);
        if (packed != empty) {
            packed = empty;
        }
        isPacked = true;
    }

    boolean isOpen() {
        return fields != null || isPacked;
    }

    private boolean ignores() {
        return !isOpen() || owner != null && owner != Thread.currentThread();
    }

    private Fields unpack() {
        if (isPacked) {
            fields = packed.replace(depth);
            isPacked = false;
        }
        return fields;
    }

    /** Returns the finished fields. The writer ignores later calls. */
    Fields release() {
        Fields finished = fields;
        fields = null;
        isPacked = false;
        return finished;
    }

    @Override
    public FieldWriter put(String name, String value) {
        if (value == null) {
            return add(named(name), Kind.NOTHING, 0, null);
        }
        boolean isUsual = isPacked && !ignores() && !isFull() && !bounds.isTooLong(value);
        if (isUsual && packed.addText(named(name), value)) {
            width++;
            return this;
        }
        return text(named(name), value);
    }

    @Override
    public FieldWriter put(String name, long value) {
        if (isPacked && !ignores() && !isFull() && packed.addInteger(named(name), value)) {
            width++;
            return this;
        }
        return add(named(name), Kind.INTEGER, value, null);
    }

    @Override
    public FieldWriter put(String name, double value) {
        return add(named(name), Kind.REAL, Double.doubleToRawLongBits(value), null);
    }

    @Override
    public FieldWriter put(String name, boolean value) {
        return add(named(name), Kind.BOOLEAN, value ? 1 : 0, null);
    }

    @Override
    public FieldWriter put(String name, char value) {
        return add(named(name), Kind.TEXT, 0, String.valueOf(value));
    }

    @Override
    public FieldWriter put(String name, float value) {
        return put(name, Double.parseDouble(Float.toString(value)));
    }

    @Override
    public FieldWriter put(String name, Object value) {
        if (!ignores()) {
            // Most fields are texts and numbers, which need none.
            capture = capture == null ? new Capture(this) : capture;
            capture.value(named(name), value);
        }
        return this;
    }

    @Override
    public <T> FieldWriter put(Key<T> key, T value) {
        if (key.sensitivity() == null || value == null) {
            return put(key.name(), (Object) value);
        }
        String instead = sensitive.inPlaceOf(key.sensitivity(), () -> textOf(value));
        return instead == null ? this : put(key.name(), instead);
    }

    /** Returns the captured value as text. */
    private static String textOf(Object value) {
        return String.valueOf(Fields.of(f -> f.put("value", value)).get("value"));
    }

    @Override
    public FieldWriter group(String name, Consumer<? super FieldWriter> writing) {
        if (!ignores()) {
            tree(named(name), Kind.GROUP, () -> record(writing));
        }
        return this;
    }

    /** Adds one value; the name is null inside a list. */
    FieldWriter add(String name, Kind kind, long bits, Object ref) {
        if (ignores() || isFull()) {
            return this;
        }
        if (isPacked && packed.add(name, kind, bits, ref)) {
            width++;
            return this;
        }
        int earlier = name == null ? -1 : unpack().indexOf(name, groupStart);
        fields.add(name, kind, bits, ref);
        settle(earlier, fields.size() - 1);
        return this;
    }

    /** Adds a group or list with the content that the action adds. */
    void tree(String name, Kind kind, Runnable content) {
        if (isFull()) {
            return;
        }
        if (depth >= bounds.depth()) {
            add(name, Kind.TEXT, 0, "… (deeper than " + bounds.depth() + " levels)");
            return;
        }
        long namesBefore = isPacked ? packed.names() : 0;
        int groupBefore = isPacked ? packed.groupFrom() : 0;
        boolean isInBytes = isPacked && packed.beginTree(name, kind);
        int earlier = name == null || isInBytes ? -1 : unpack().indexOf(name, groupStart);
        int startBefore = groupStart;
        int widthBefore = width;
        boolean inListBefore = inList;
        int index = isInBytes ? packed.entries() - 1 : unpack().begin(name, kind);
        groupStart = index + 1;
        width = 0;
        inList = kind == Kind.LIST;
        depth++;
        try {
            content.run();
        } finally {
            if (isPacked) {
                packed.endTree(name, namesBefore, groupBefore);
            } else {
                fields.end(index);
            }
            groupStart = startBefore;
            width = widthBefore;
            inList = inListBefore;
            depth--;
        }
        settle(earlier, index);
    }

    int mark() {
        return isPacked ? packed.entries() : fields.size();
    }

    /** Forgets what was added since the mark. */
    void cutBack(int mark) {
        unpack().cutBack(mark);
    }

    /** Adds a text. If it is too long, its beginning is recorded, and cut when the event is finished. */
    FieldWriter text(String name, CharSequence text) {
        if (!ignores() && bounds.isTooLong(text)) {
            unpack().takesInPart();
            return add(name, Kind.TEXT, text.length(), bounds.head(text));
        }
        return add(name, Kind.TEXT, 0, text.toString());
    }

    private static String named(String name) {
        return name == null ? "null" : Bounds.name(name);
    }

    /** Returns whether the current group or list is full; the first time, a marker is added. */
    boolean isFull() {
        if (width < bounds.width()) {
            return false;
        }
        if (width == bounds.width()) {
            width++;
            unpack().add(inList ? null : "…", Kind.TEXT, 0, "… (more than " + bounds.width() + " entries)");
        }
        return true;
    }

    private void settle(int earlier, int added) {
        if (earlier >= 0) {
            fields.replace(earlier, added);
        } else {
            width++;
        }
    }
}
