package dev.graphema.sql;

import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.stream.Collectors;

/** Differences between databases. */
enum Dialect {
    POSTGRESQL("jsonb", "?::jsonb") {
        @Override
        String insert(String table) {
            return "insert into " + table + " (" + columns() + ") values (" + parameters()
                    + ") on conflict (\"id\") do nothing";
        }
    },
    H2("json", "? format json") {
        @Override
        String insert(String table) {
            return "merge into " + table + " (" + columns() + ") key (\"id\") values (" + parameters() + ")";
        }
    };

    private final String json;
    private final String jsonParameter;

    Dialect(String json, String jsonParameter) {
        this.json = json;
        this.jsonParameter = jsonParameter;
    }

    /** Returns the dialect of a database by the name of the product; null if it is unknown. */
    static Dialect of(String product) {
        return switch (product.toLowerCase(Locale.ROOT)) {
            case "postgresql" -> POSTGRESQL;
            case "h2" -> H2;
            default -> null;
        };
    }

    /** Inserts a row, unless there is one with the same id: an event that arrives twice is stored once. */
    abstract String insert(String table);

    String create(String table) {
        return Arrays.stream(Column.values())
                .map(column -> quoted(column) + " " + (column.isJson() ? json : column.type()))
                .collect(Collectors.joining(
                        ", ", "create table " + table + " (\"number\" bigint generated always as identity, ", ")"));
    }

    /** Returns the statements for the indexes by which events are found: by time, also the newest ones, and by trace. */
    List<String> indexes(String table) {
        String name = table.substring(table.lastIndexOf('.') + 1);
        return List.of(
                "create index " + name + "_time on " + table + " (\"plain\", \"time\", \"nanos\", \"number\")",
                "create index " + name + "_trace on " + table + " (\"trace\")",
                "create unique index " + name + "_number on " + table + " (\"number\")");
    }

    String columns() {
        return Arrays.stream(Column.values()).map(Dialect::quoted).collect(Collectors.joining(", "));
    }

    String parameters() {
        return Arrays.stream(Column.values())
                .map(column -> column.isJson() ? jsonParameter : "?")
                .collect(Collectors.joining(", "));
    }

    static String name(Column column) {
        return column.name().toLowerCase(Locale.ROOT);
    }

    /** Some names are keywords of SQL; both databases accept quoted names. */
    private static String quoted(Column column) {
        return '"' + name(column) + '"';
    }
}
