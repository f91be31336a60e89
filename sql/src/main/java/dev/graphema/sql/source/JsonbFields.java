package dev.graphema.sql.source;

import dev.graphema.lines.form.WrittenEvents;
import dev.graphema.sql.table.FieldColumns;
import dev.graphema.sql.table.GroupColumn;
import dev.graphema.sql.table.Sql;
import java.math.BigDecimal;
import java.sql.ResultSetMetaData;
import java.sql.SQLException;
import java.util.List;

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

    @Override
    public String number(String field) {
        return "(case jsonb_typeof(" + json(field) + ") when 'number' then (" + json(field) + ")::numeric end)";
    }

    /** Texts such as PT0.25S are durations. */
    @Override
    public String text(String field) {
        return "case when jsonb_typeof(" + json(field) + ") = 'string' and " + characters(field)
                + " not like 'PT%' then " + characters(field) + " end";
    }

    @Override
    public Sql others(String field) {
        return Sql.of("case jsonb_typeof(" + json(field) + ") when 'number' then false when 'string' then "
                + characters(field) + " like 'PT%' else " + json(field) + " is not null end");
    }

    /** Evaluates the expression once, which takes most of the time. */
    @Override
    public Sql compared(String expression, String comparison, Object parameter) {
        return Sql.of("coalesce(" + expression + comparison + ", false)", parameter);
    }

    @Override
    public Object bound(BigDecimal number) {
        return number;
    }

    @Override
    public GroupColumn counted(String field) {
        return has(field) ? new GroupColumn("(" + json(field) + ")::text", others(field), WrittenEvents::value) : null;
    }

    @Override
    public GroupColumn measured(String field) {
        return has(field)
                ? new GroupColumn(
                        number(field) + "::text",
                        Sql.any(List.of(others(field), Sql.of("jsonb_typeof(" + json(field) + ") = 'string'"))),
                        WrittenEvents::value)
                : null;
    }

    private static String json(String field) {
        return "\"fields\" -> '" + field + "'";
    }

    private static String characters(String field) {
        return "(\"fields\" ->> '" + field + "')";
    }
}
