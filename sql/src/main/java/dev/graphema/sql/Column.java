package dev.graphema.sql;

import dev.graphema.event.Event;
import dev.graphema.event.Fields;
import dev.graphema.format.Json;
import dev.graphema.format.JsonLines;
import dev.graphema.text.Decimals;
import dev.graphema.text.Times;
import dev.graphema.text.Utf8Buffer;
import java.math.BigDecimal;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.sql.Types;
import java.time.Instant;
import java.time.OffsetDateTime;
import java.time.ZoneOffset;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.regex.Pattern;

/** The columns of the table, in order. */
enum Column {
    ID("varchar(40) not null primary key") {
        @Override
        void set(PreparedStatement statement, int index, Event event) throws SQLException {
            // An event without an id, from elsewhere, cannot be recognised when it arrives again.
            text(statement, index, event.id() == null ? UUID.randomUUID() : event.id());
        }
    },
    TIME("timestamp(6) with time zone not null") {
        @Override
        void set(PreparedStatement statement, int index, Event event) throws SQLException {
            Instant micros = Times.instant(event.epochNanos() - Math.floorMod(event.epochNanos(), MICRO));
            statement.setObject(index, OffsetDateTime.ofInstant(micros, ZoneOffset.UTC));
        }
    },
    /** The nanoseconds of the time behind its microseconds. */
    NANOS("smallint not null") {
        @Override
        void set(PreparedStatement statement, int index, Event event) throws SQLException {
            statement.setShort(index, (short) Math.floorMod(event.epochNanos(), MICRO));
        }
    },
    LEVEL("varchar(8)") {
        @Override
        void set(PreparedStatement statement, int index, Event event) throws SQLException {
            text(statement, index, event.level() == null ? null : event.level().text());
        }
    },
    SEVERITY("smallint") {
        @Override
        void set(PreparedStatement statement, int index, Event event) throws SQLException {
            if (event.level() == null) {
                statement.setNull(index, Types.SMALLINT);
            } else {
                statement.setShort(index, (short) event.level().severity());
            }
        }
    },
    SERVICE("text") {
        @Override
        void set(PreparedStatement statement, int index, Event event) throws SQLException {
            text(statement, index, event.service());
        }
    },
    INSTANCE("text") {
        @Override
        void set(PreparedStatement statement, int index, Event event) throws SQLException {
            text(statement, index, event.instance());
        }
    },
    LOGGER("text") {
        @Override
        void set(PreparedStatement statement, int index, Event event) throws SQLException {
            text(statement, index, event.logger());
        }
    },
    MESSAGE("text") {
        @Override
        void set(PreparedStatement statement, int index, Event event) throws SQLException {
            text(statement, index, event.message());
        }
    },
    TRACE("varchar(32)") {
        @Override
        void set(PreparedStatement statement, int index, Event event) throws SQLException {
            text(statement, index, event.trace());
        }
    },
    SPAN("varchar(16)") {
        @Override
        void set(PreparedStatement statement, int index, Event event) throws SQLException {
            text(statement, index, event.span());
        }
    },
    PARENT("varchar(16)") {
        @Override
        void set(PreparedStatement statement, int index, Event event) throws SQLException {
            text(statement, index, event.parent());
        }
    },
    THREAD("text") {
        @Override
        void set(PreparedStatement statement, int index, Event event) throws SQLException {
            text(statement, index, event.thread());
        }
    },
    SEQUENCE("bigint") {
        @Override
        void set(PreparedStatement statement, int index, Event event) throws SQLException {
            statement.setLong(index, event.sequence());
        }
    },
    WEIGHT("bigint") {
        @Override
        void set(PreparedStatement statement, int index, Event event) throws SQLException {
            statement.setLong(index, event.weight());
        }
    },
    HELD("boolean") {
        @Override
        void set(PreparedStatement statement, int index, Event event) throws SQLException {
            statement.setBoolean(index, event.held());
        }
    },
    FIELDS(Column.JSON) {
        @Override
        void set(PreparedStatement statement, int index, Event event) throws SQLException {
            statement.setString(index, event.fields().isEmpty() ? null : json(event.fields()));
        }
    },
    FAILURE(Column.JSON) {
        @Override
        void set(PreparedStatement statement, int index, Event event) throws SQLException {
            statement.setString(index, event.failure() == null ? null : storable(Json.of(event.failure())));
        }
    },
    FINGERPRINT("varchar(16)") {
        @Override
        void set(PreparedStatement statement, int index, Event event) throws SQLException {
            text(
                    statement,
                    index,
                    event.failure() == null ? null : event.failure().fingerprint());
        }
    },
    /** The event in Graphema JSON, from which it is read again without any loss. */
    LINE("text not null") {
        @Override
        void set(PreparedStatement statement, int index, Event event) throws SQLException {
            Utf8Buffer line = new Utf8Buffer(512);
            new JsonLines().write(event, line);
            statement.setString(index, line.toString().strip());
        }
    },
    /** Whether the columns up to {@link #FIELDS} have exactly the values of the event, so that the database can decide on them. */
    PLAIN("boolean not null") {
        @Override
        void set(PreparedStatement statement, int index, Event event) throws SQLException {
            statement.setBoolean(
                    index,
                    event.hasTime()
                            && isPlain(event.service())
                            && isPlain(event.instance())
                            && isPlain(event.logger())
                            && isPlain(event.message())
                            && isPlain(event.thread())
                            && arePlain(event.fields()));
        }
    };

    private static final long MICRO = 1_000;

    /** A placeholder for the JSON type of the database. */
    static final String JSON = "json";

    // Databases support neither the character 0 nor unpaired surrogates; the JSON form escapes both.
    private static final Pattern NOT_STORABLE =
            Pattern.compile("(?<!\\\\)((?:\\\\\\\\)*)\\\\u(?:0000|[dD][89a-fA-F][0-9a-fA-F]{2})");

    private static final Pattern PERHAPS_TOO_LARGE = Pattern.compile("[0-9]E[+-]?[0-9]{4}");

    /** PostgreSQL has no number with more than 131,072 digits, and no fraction with more than 16,383. */
    private static final int MOST_ZEROS = 2 * Decimals.MOST_DIGITS;

    private static final Pattern PERHAPS_CHANGED = Pattern.compile("[0-9]E|-0");

    private final String type;

    Column(String type) {
        this.type = type;
    }

    /** Sets the parameter of the statement to the value of the event. */
    abstract void set(PreparedStatement statement, int index, Event event) throws SQLException;

    /** The SQL type, or {@link #JSON}. */
    String type() {
        return type;
    }

    boolean isJson() {
        return type.equals(JSON);
    }

    private static void text(PreparedStatement statement, int index, Object value) throws SQLException {
        statement.setString(index, value == null ? null : plain(value.toString()));
    }

    private static boolean isPlain(String text) {
        return text == null || plain(text).equals(text);
    }

    /** Returns fields in JSON that databases can store: numbers with very many zeros, which PostgreSQL would write out, are texts. */
    private static String json(Fields fields) {
        String json = Json.of(fields);
        if (PERHAPS_TOO_LARGE.matcher(json).find()) {
            json = Json.of(Fields.of(to -> fields.toMap().forEach((name, value) -> to.put(name, small(value)))));
        }
        return storable(json);
    }

    private static Object small(Object value) {
        if (value instanceof BigDecimal number) {
            boolean isLarge = Math.abs((long) number.scale()) > MOST_ZEROS;
            return isLarge ? number.toString() : number;
        }
        if (value instanceof List<?> list) {
            return list.stream().map(Column::small).toList();
        }
        if (value instanceof Map<?, ?> group) {
            Map<Object, Object> members = new LinkedHashMap<>();
            group.forEach((name, member) -> members.put(name, small(member)));
            return members;
        }
        return value;
    }

    /** Returns whether a JSON type of a database returns fields as they are written. */
    private static boolean arePlain(Fields fields) {
        String json = Json.of(fields);
        return json(fields).equals(json)
                && !(PERHAPS_CHANGED.matcher(json).find()
                        && fields.toMap().values().stream().anyMatch(Column::isChanged));
    }

    /** Returns whether a number has an exponent that is written out without a decimal point, or is -0. */
    private static boolean isChanged(Object value) {
        boolean isDecimal = value instanceof Double number && Double.isFinite(number) || value instanceof BigDecimal;
        String text = isDecimal ? value.toString() : "";
        return text.equals("-0.0") || text.indexOf('E') >= 0 && Decimals.isWhole(new BigDecimal(text));
    }

    private static String storable(String json) {
        return json.indexOf('\\') < 0 ? json : NOT_STORABLE.matcher(json).replaceAll("$1\uFFFD");
    }

    /** Returns the text with U+FFFD for characters that databases cannot store. */
    private static String plain(String text) {
        for (int i = 0; i < text.length(); i++) {
            char c = text.charAt(i);
            if (c == 0 || Character.isSurrogate(c)) {
                return text.codePoints()
                        .map(point -> point == 0 || point >= 0xD800 && point <= 0xDFFF ? 0xFFFD : point)
                        .collect(StringBuilder::new, StringBuilder::appendCodePoint, StringBuilder::append)
                        .toString();
            }
        }
        return text;
    }
}
