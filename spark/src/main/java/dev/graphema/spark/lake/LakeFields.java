package dev.graphema.spark.lake;

import dev.graphema.sql.table.FieldColumns;
import dev.graphema.sql.table.GroupColumn;
import dev.graphema.sql.table.Sql;
import java.math.BigDecimal;
import java.util.List;
import java.util.Set;
import java.util.function.Function;

/** The fields of events in the columns of a lake: frequent ones have columns; by the others, Spark counts with {@link EventFunctions}. */
public final class LakeFields implements FieldColumns {
    private final Set<String> frequent;

    /** @param frequent the names of the fields that have columns of their own */
    public LakeFields(List<String> frequent) {
        this.frequent = Set.copyOf(frequent);
    }

    @Override
    public boolean has(String field) {
        return frequent.contains(field) && FieldColumns.isPlain(field);
    }

    private static String number(String field) {
        return '"' + EventSchema.NUMBER + field + '"';
    }

    private static String text(String field) {
        return '"' + EventSchema.TEXT + field + '"';
    }

    /** In a row that is plain, there is no other value. */
    @Override
    public Sql either(String field, Function<String, Sql> ofNumber, Function<String, Sql> ofText, boolean ofOther) {
        return Sql.any(
                List.of(FieldColumns.present(number(field), ofNumber), FieldColumns.present(text(field), ofText)));
    }

    @Override
    public Object bound(BigDecimal number) {
        double nearest = number.doubleValue();
        return Double.isFinite(nearest) && BigDecimal.valueOf(nearest).compareTo(number) == 0 ? nearest : null;
    }

    @Override
    public GroupColumn counted(String field) {
        if (!FieldColumns.isPlain(field)) {
            return null;
        }
        return GroupColumn.ofTexts(
                has(field)
                        ? "coalesce(" + text(field) + ", \"fields\"['" + field + "'], cast(cast(" + number(field)
                                + " as bigint) as string))"
                        : EventFunctions.VALUE + "('" + field + "', \"line\")");
    }

    @Override
    public GroupColumn measured(String field) {
        return has(field)
                ? new GroupColumn(
                        "cast(" + number(field) + " as string)",
                        Sql.of(text(field) + " is not null"),
                        text -> text == null ? null : Double.valueOf(text))
                : null;
    }
}
