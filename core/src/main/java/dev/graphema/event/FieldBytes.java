package dev.graphema.event;

/**
 * The fields of a draft as bytes, in the form of {@link EventBytes}. A field is checked for redaction, and encoded, when it
 * is recorded. The bytes never contain a secret, and are only added to: for any other change, an object {@linkplain
 * #replace replaces} them. For one thread.
 */
final class FieldBytes extends EncodedBytes {
    private static final int USUAL = 256;

    /** The room for the kind and a number. */
    private static final int ROOM_OF_ENTRY = 1 + Long.BYTES;

    /** The longest array that is used for another event. */
    private static final int MOST_KEPT = 16 * 1024;

    private SensitiveValues redaction = SensitiveValues.FIXED;
    private long redactionId;
    private int entries;

    /** The number of bytes of complete entries, and the number of open groups and lists. */
    private int end;

    private int open;

    /** A bit set of the hashes of the names in the current group, and the index of its first byte. */
    private long names;

    private int groupFrom;

    /** The fields as an object, and the number of bytes that it was made of. */
    private Fields unpacked;

    private int unpackedLength;

    private Fields replacement;

    FieldBytes() {
        super(USUAL);
    }

    /** Sets what checks the fields that are recorded from now on. */
    void checkedBy(SensitiveValues redaction) {
        if (this.redaction != redaction) {
            this.redaction = redaction;
        }
        redactionId = redaction.id();
    }

    /** Removes all fields, and the objects of them, which may contain secrets. */
    void clear() {
        if (bytes.length > MOST_KEPT) {
            bytes = new byte[USUAL];
        }
        length = 0;
        end = 0;
        open = 0;
        entries = 0;
        names = 0;
        groupFrom = 0;
        unpacked = null;
        replacement = null;
    }

    /** Returns the number of entries; a group or list is one, and each of its entries is another. */
    int entries() {
        return entries;
    }

    /** Returns whether the fields were checked for this redaction, which changes neither a name nor a value. */
    boolean isCheckedBy(SensitiveValues other) {
        return redaction == other && redactionId != 0;
    }

    /**
     * Adds a value that is not a group or list.
     *
     * @return false if the group has a field of this name, or redaction may change the field; nothing was added then
     */
    boolean add(String name, Kind kind, long bits, Object ref) {
        String text = kind == Kind.TEXT ? (String) ref : Fields.longNumber(kind, bits, ref);
        if (!begin(name, kind, text)) {
            return false;
        }
        value(kind, bits, ref);
        end(1);
        return true;
    }

    /**
     * Adds a whole number.
     *
     * @return as for {@link #add}
     */
    boolean addInteger(String name, long value) {
        if (!begin(name, Kind.INTEGER, Fields.isLongNumber(value) ? Long.toString(value) : null)) {
            return false;
        }
        putLong(value);
        end(1);
        return true;
    }

    /**
     * Adds a text.
     *
     * @return as for {@link #add}
     */
    boolean addText(String name, String value) {
        if (!begin(name, Kind.TEXT, value)) {
            return false;
        }
        text(value);
        end(1);
        return true;
    }

    /**
     * Begins a group or list.
     *
     * @return as for {@link #add}
     */
    boolean beginTree(String name, Kind kind) {
        if (!begin(name, kind, null)) {
            return false;
        }
        names = 0;
        groupFrom = length;
        open++;
        end(1);
        return true;
    }

    /** The state of a group while another one is in it. */
    long names() {
        return names;
    }

    int groupFrom() {
        return groupFrom;
    }

    /** Ends a group or list, and continues the one around it. */
    void endTree(String name, long namesAround, int groupAround) {
        length = end;
        putByte(END);
        names = namesAround | (name == null ? 0 : Fields.bit(name));
        groupFrom = groupAround;
        open--;
        end(0);
    }

    /**
     * Writes kind and name. What redaction may change is checked before anything is written or cached: the name first,
     * because it can make any value a secret.
     *
     * @param text the value, if redaction reads it
     */
    private boolean begin(String name, Kind kind, String text) {
        length = end;
        if (name == null) {
            if (text != null && !redaction.keepsText(text)) {
                return false;
            }
            putByte((byte) kind.ordinal());
            putInt(NULL);
            return true;
        }
        KnownText known = known(name);
        boolean isKept = known == null
                ? redaction.keepsField(name)
                : known.keptBy == redactionId && redactionId != 0 || known.isNameKeptBy(redaction, redactionId);
        if (!isKept) {
            return false;
        }
        long bit = Fields.bit(name);
        if ((names & bit) != 0 && has(name) || text != null && !redaction.keepsText(text)) {
            return false;
        }
        names |= bit;
        if (known == null) {
            putByte((byte) kind.ordinal());
            unknown(name);
            return true;
        }
        byte[] form = known.form;
        room(form.length + ROOM_OF_ENTRY);
        bytes[length] = (byte) kind.ordinal();
        System.arraycopy(form, 0, bytes, length + 1, form.length);
        length += form.length + 1;
        return true;
    }

    /** An entry that an error has interrupted is not there. */
    private void end(int added) {
        entries += added;
        end = length;
    }

    /**
     * Adds the fields of a context whose names are missing.
     *
     * @return false if redaction may change a field, or a text is still to be cut; nothing was added then
     */
    boolean addMissing(Fields more) {
        if (more.hasCutTexts() || !more.isKeptBy(redaction, redactionId)) {
            return false;
        }
        length = end;
        if ((names & more.nameBits()) == 0 || !hasAny(more)) {
            names |= more.nameBits();
            byte[] known = more.encoded();
            if (known == null) {
                entries(more, 0, more.size());
                more.setEncoded(copy(end));
            } else {
                bytes(known, known.length);
            }
            end(more.size());
            return true;
        }
        for (int i = 0; i < more.size(); i = more.next(i)) {
            if (!has(more.name(i))) {
                names |= Fields.bit(more.name(i));
                entries(more, i, more.next(i));
                end(more.next(i) - i);
            }
        }
        return true;
    }

    private boolean hasAny(Fields more) {
        for (int i = 0; i < more.size(); i = more.next(i)) {
            if ((names & Fields.bit(more.name(i))) != 0 && has(more.name(i))) {
                return true;
            }
        }
        return false;
    }

    /** Returns whether the current group has a field of this name. */
    private boolean has(String name) {
        for (int at = groupFrom; at < end; at = EncodedFields.behindField(bytes, at)) {
            if (EncodedFields.isText(bytes, at + 1, name)) {
                return true;
            }
        }
        return false;
    }

    /** Returns whether there is a field with this name and its value passes the test. */
    boolean test(String path, ValuePredicate test) {
        for (int at = 0; at < end; at = EncodedFields.behindField(bytes, at)) {
            boolean isFound = EncodedFields.isText(bytes, at + 1, path);
            switch (EncodedFields.kind(bytes, at)) {
                case GROUP, LIST -> {
                    return fields().test(path, test); // for a path into it
                }
                case DECIMAL, TIME, DURATION -> {
                    if (isFound) {
                        return fields().test(path, test);
                    }
                }
                default -> {
                    if (isFound) {
                        return EncodedFields.test(bytes, at, test);
                    }
                }
            }
        }
        return false;
    }

    boolean isEmpty() {
        return end == 0;
    }

    /** Returns the fields as an object, which must not be changed. */
    Fields fields() {
        if (unpacked == null || unpackedLength != end) {
            unpacked = isEmpty() ? Fields.NONE : unpack(open);
            unpackedLength = end;
        }
        return unpacked;
    }

    /**
     * Returns the fields as an object, which replaces the bytes.
     *
     * @param inside the number of groups that are open
     */
    Fields replace(int inside) {
        replacement = unpack(inside);
        return replacement;
    }

    /** Returns the object that replaces the bytes, or null. */
    Fields replacement() {
        return replacement;
    }

    private Fields unpack(int inside) {
        length = end;
        for (int i = 0; i <= inside; i++) {
            putByte(END);
        }
        return EncodedFields.fields(bytes, 0, length);
    }

    /** Writes all fields to other bytes. */
    void writeTo(EncodedBytes to) {
        to.bytes(bytes, end);
        for (int i = 0; i < open; i++) {
            to.putByte(END); // an error has interrupted the end of a group
        }
    }
}
