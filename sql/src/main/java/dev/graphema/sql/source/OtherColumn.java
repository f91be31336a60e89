package dev.graphema.sql.source;

import dev.graphema.format.Json;
import java.math.BigDecimal;
import java.sql.ResultSet;
import java.sql.ResultSetMetaData;
import java.sql.SQLException;
import java.sql.Types;
import java.time.LocalDateTime;
import java.time.OffsetDateTime;
import java.time.ZoneOffset;
import java.util.Locale;
import java.util.Set;

/**
 * A column of a table of another program.
 *
 * @param name as the database writes it
 * @param kind what its values are
 */
record OtherColumn(String name, Kind kind) {
    private static final Set<Integer> TEXTS = Set.of(
            Types.CHAR,
            Types.VARCHAR,
            Types.LONGVARCHAR,
            Types.CLOB,
            Types.NCHAR,
            Types.NVARCHAR,
            Types.LONGNVARCHAR,
            Types.NCLOB);
    private static final Set<Integer> NUMBERS =
            Set.of(Types.TINYINT, Types.SMALLINT, Types.INTEGER, Types.BIGINT, Types.NUMERIC, Types.DECIMAL);
    private static final Set<Integer> FLOATS = Set.of(Types.REAL, Types.FLOAT, Types.DOUBLE);

    enum Kind {
        TEXT,
        NUMBER,
        FLOAT,
        BOOLEAN,
        /** A moment. */
        TIME,
        /** A date and a time of day, which are taken to be in UTC. */
        LOCAL_TIME,
        JSON,
        OTHER
    }

    /** Returns a column of a result, counted from 1. */
    static OtherColumn of(ResultSetMetaData columns, int index) throws SQLException {
        String type = String.valueOf(columns.getColumnTypeName(index)).toLowerCase(Locale.ROOT);
        return new OtherColumn(columns.getColumnName(index), kind(columns.getColumnType(index), type));
    }

    private static Kind kind(int type, String name) {
        if (name.equals("json") || name.equals("jsonb")) {
            return Kind.JSON;
        }
        if (type == Types.TIMESTAMP_WITH_TIMEZONE || name.equals("timestamptz")) {
            return Kind.TIME; // PostgreSQL gives both kinds the same number
        }
        if (type == Types.TIMESTAMP) {
            return Kind.LOCAL_TIME;
        }
        if (type == Types.BOOLEAN || type == Types.BIT && name.equals("bool")) {
            return Kind.BOOLEAN;
        }
        return TEXTS.contains(type)
                ? Kind.TEXT
                : NUMBERS.contains(type) ? Kind.NUMBER : FLOATS.contains(type) ? Kind.FLOAT : Kind.OTHER;
    }

    boolean isTime() {
        return kind == Kind.TIME || kind == Kind.LOCAL_TIME;
    }

    /** Returns the name as a statement writes it. */
    String quoted() {
        return '"' + name.replace("\"", "\"\"") + '"';
    }

    /** Returns a moment as the driver takes it for this column. */
    Object moment(OffsetDateTime time) {
        return kind == Kind.TIME ? time : time.toLocalDateTime();
    }

    /** Returns a value of a row as JSON; null if there is none. */
    String json(ResultSet rows, int index) throws SQLException {
        switch (kind) {
            case NUMBER:
                BigDecimal number = rows.getBigDecimal(index);
                return number == null ? null : number.toString();
            case FLOAT:
                double real = rows.getDouble(index);
                return rows.wasNull()
                        ? null
                        : Double.isFinite(real) ? Double.toString(real) : Json.of(Double.toString(real));
            case BOOLEAN:
                boolean isTrue = rows.getBoolean(index);
                return rows.wasNull() ? null : Boolean.toString(isTrue);
            case TIME:
                OffsetDateTime time = rows.getObject(index, OffsetDateTime.class);
                return time == null ? null : Json.of(time.toInstant().toString());
            case LOCAL_TIME:
                LocalDateTime local = rows.getObject(index, LocalDateTime.class);
                return local == null
                        ? null
                        : Json.of(local.toInstant(ZoneOffset.UTC).toString());
            default:
                String text = rows.getString(index);
                return text == null ? null : kind == Kind.JSON ? text : Json.of(text);
        }
    }
}
