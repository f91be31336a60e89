package dev.graphema.sql.source;

import dev.graphema.lines.form.WrittenEvents;
import dev.graphema.sql.table.FieldColumns;
import dev.graphema.sql.table.GroupColumn;
import dev.graphema.sql.table.Sql;
import java.math.BigDecimal;
import java.sql.ResultSetMetaData;
import java.sql.SQLException;
import java.util.function.Function;

/** The fields in the column {@code fields} of a table in PostgreSQL. Names of other characters and names in groups are not reached. */
final class JsonbFields implements FieldColumns {
    static final JsonbFields INSTANCE = new JsonbFields();

    private JsonbFields() {}

    /** Returns whether a column of a result, counted from 1, has fields in this form. */
    static boolean isColumn(ResultSetMetaData columns, int index) throws SQLException {
        return columns.getColumnName(index).equals("fields")
                && columns.getColumnTypeName(index).equals("jsonb");
    }

    @Override
    public boolean has(String field) {
        return FieldColumns.isPlain(field);
    }

    /** Reads the value as rarely as possible, which takes most of the time. Texts such as PT0.25S are durations. */
    @Override
    public Sql either(String field, Function<String, Sql> ofNumber, Function<String, Sql> ofText, boolean ofOther) {
        String json = json(field);
        Sql other = ofOther ? Sql.TRUE : Sql.FALSE;
        Sql text = ofText.apply("(\"fields\" ->> '" + field + "')");
        Sql strings = text.equals(other)
                ? text
                : Sql.of("case when \"fields\" ->> '" + field + "' like 'PT%' then ")
                        .then(other)
                        .then(" else ")
                        .then(text)
                        .then(" end");
        return Sql.of("case jsonb_typeof(" + json + ") when 'number' then ")
                .then(ofNumber.apply("(" + json + ")::numeric"))
                .then(" when 'string' then ")
                .then(strings)
                .then(" else ")
                .then(ofOther ? Sql.of(json + " is not null") : Sql.FALSE)
                .then(" end");
    }

    @Override
    public Object bound(BigDecimal number) {
        return number;
    }

    @Override
    public GroupColumn counted(String field) {
        Sql undecided = either(field, number -> Sql.FALSE, text -> Sql.FALSE, true);
        return has(field) ? new GroupColumn("(" + json(field) + ")::text", undecided, WrittenEvents::value) : null;
    }

    @Override
    public GroupColumn measured(String field) {
        Sql undecided = either(field, number -> Sql.FALSE, text -> Sql.TRUE, true);
        String number = "case jsonb_typeof(" + json(field) + ") when 'number' then (" + json(field) + ")::text end";
        return has(field) ? new GroupColumn(number, undecided, WrittenEvents::value) : null;
    }

    private static String json(String field) {
        return "\"fields\" -> '" + field + "'";
    }
}
