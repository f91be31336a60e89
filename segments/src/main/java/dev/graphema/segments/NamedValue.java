package dev.graphema.segments;

import dev.graphema.condition.Name;
import dev.graphema.event.Attribute;
import dev.graphema.format.JsonMember;
import dev.graphema.segments.line.Column;
import dev.graphema.segments.line.Kind;
import dev.graphema.segments.line.Shape;
import java.util.List;

/**
 * Where the lines of a shape have the value of a name.
 *
 * @param place whether it is in a column
 * @param column the number of the column; -1 for none
 * @param constant true or false if it is part of the shape; else null
 */
record NamedValue(Place place, int column, Boolean constant) {
    /** Where a value is. */
    enum Place {
        /** There is none. */
        NOWHERE,
        /** The shape itself has it. */
        SHAPE,
        COLUMN,
        /** Only the complete event has it. */
        EVENT
    }

    private static final String IN_FIELDS = JsonMember.FIELDS.text() + Column.SEPARATOR;
    private static final NamedValue NOWHERE = new NamedValue(Place.NOWHERE, -1, null);
    static final NamedValue EVENT = new NamedValue(Place.EVENT, -1, null);

    /**
     * Returns where the value of a name is.
     *
     * @param columns all columns of the segment
     */
    static NamedValue of(Name name, Shape shape, List<Column> columns) {
        return name.attribute() == null
                ? ofField(name.field(), shape, columns)
                : ofAttribute(name.attribute(), shape, columns);
    }

    private static NamedValue ofAttribute(Attribute attribute, Shape shape, List<Column> columns) {
        return switch (attribute) {
            case TIME, WEIGHT -> NOWHERE; // they are read anyhow
            case LEVEL, SERVICE, INSTANCE, LOGGER, MESSAGE, THREAD ->
                member(memberOf(attribute), Kind.TEXT, shape, columns);
            case TRACE, SPAN, PARENT -> member(memberOf(attribute), Kind.ID, shape, columns);
            case SEQUENCE -> member(JsonMember.SEQUENCE, Kind.INTEGER, shape, columns);
            case EVENT_ID -> has(JsonMember.ID.text(), shape, columns) ? EVENT : NOWHERE;
            case EVENT_REPEAT -> flag(JsonMember.REPEAT, shape, columns);
            case HELD -> flag(JsonMember.HELD, shape, columns);
            case FAILURE_TYPE, FAILURE_MESSAGE, FAILURE_FINGERPRINT -> failure(attribute, shape, columns);
        };
    }

    private static JsonMember memberOf(Attribute attribute) {
        for (JsonMember member : JsonMember.values()) {
            if (member.attribute() == attribute) {
                return member;
            }
        }
        throw new IllegalArgumentException("attribute: " + attribute);
    }

    private static NamedValue member(JsonMember member, Kind kind, Shape shape, List<Column> columns) {
        int column = columnOf(member.text(), shape, columns);
        if (column >= 0 && columns.get(column).kind() == kind) {
            return new NamedValue(Place.COLUMN, column, null);
        }
        return has(member.text(), shape, columns) ? EVENT : NOWHERE;
    }

    private static NamedValue flag(JsonMember member, Shape shape, List<Column> columns) {
        if ("true".equals(shape.constants().get(member.text()))) {
            return new NamedValue(Place.SHAPE, -1, true);
        }
        return has(member.text(), shape, columns) ? EVENT : NOWHERE;
    }

    /** The fingerprint is written in front of the failure, from which it follows. */
    private static NamedValue failure(Attribute attribute, Shape shape, List<Column> columns) {
        int failure = columnOf(JsonMember.FAILURE.text(), shape, columns);
        if (failure < 0) {
            return has(JsonMember.FAILURE.text(), shape, columns) ? EVENT : NOWHERE;
        }
        if (columns.get(failure).kind() != Kind.JSON) {
            return EVENT;
        }
        if (attribute != Attribute.FAILURE_FINGERPRINT) {
            return new NamedValue(Place.COLUMN, failure, null);
        }
        int fingerprint = columnOf(JsonMember.FINGERPRINT.text(), shape, columns);
        boolean isWritten = fingerprint >= 0 && columns.get(fingerprint).kind() == Kind.ID;
        return isWritten ? new NamedValue(Place.COLUMN, fingerprint, null) : EVENT;
    }

    private static NamedValue ofField(String field, Shape shape, List<Column> columns) {
        NamedValue found = null;
        for (int column : shape.columns()) {
            String path = columns.get(column).path();
            if (isDoubtful(path, field)) {
                return EVENT;
            }
            if (isField(path, field)) {
                if (found != null) {
                    return EVENT;
                }
                found = new NamedValue(Place.COLUMN, column, null);
            }
        }
        for (var constant : shape.constants().entrySet()) {
            if (isDoubtful(constant.getKey(), field)) {
                return EVENT;
            }
            if (isField(constant.getKey(), field)) {
                if (found != null) {
                    return EVENT;
                }
                // A null is a value that exists, which only the event shows.
                found = constant.getValue().equals("null")
                        ? EVENT
                        : new NamedValue(Place.SHAPE, -1, constant.getValue().equals("true"));
            }
        }
        boolean isGroup = shape.groups().stream()
                .anyMatch(path -> isField(path, field) || !path.startsWith(IN_FIELDS) && isDoubtful(path, field));
        return isGroup ? EVENT : found == null ? NOWHERE : found;
    }

    private static boolean isField(String path, String field) {
        return path.length() == IN_FIELDS.length() + field.length()
                && path.startsWith(IN_FIELDS)
                && path.substring(IN_FIELDS.length())
                        .replace(Column.SEPARATOR, '.')
                        .equals(field);
    }

    /** Whether a value may be, or contain, that of the field in a way that only the complete event shows. */
    private static boolean isDoubtful(String path, String field) {
        if (path.indexOf('\\') >= 0) {
            return true;
        }
        if (path.startsWith(IN_FIELDS)) {
            // A list can contain groups; a name can contain a dot.
            int rest = IN_FIELDS.length();
            int length = path.length() - rest;
            return field.length() > length
                    && field.charAt(length) == '.'
                    && field.startsWith(path.substring(rest).replace(Column.SEPARATOR, '.'));
        }
        boolean isOfEvent = false;
        for (JsonMember member : JsonMember.values()) {
            isOfEvent |= path.equals(member.text()) || path.startsWith(member.text() + Column.SEPARATOR);
        }
        String dotted = path.replace(Column.SEPARATOR, '.');
        if (!isOfEvent) {
            return field.equals(dotted) || field.startsWith(dotted + ".") || dotted.startsWith(field + ".");
        }
        return false;
    }

    private static int columnOf(String path, Shape shape, List<Column> columns) {
        for (int column : shape.columns()) {
            if (columns.get(column).path().equals(path)) {
                return column;
            }
        }
        return -1;
    }

    private static boolean has(String path, Shape shape, List<Column> columns) {
        return columnOf(path, shape, columns) >= 0
                || shape.constants().containsKey(path)
                || shape.groups().contains(path);
    }
}
