package dev.graphema.cli.output;

import dev.graphema.event.Fields;
import dev.graphema.format.Json;
import dev.graphema.text.Decimals;
import dev.graphema.text.Escapes;
import dev.graphema.text.Utf8Buffer;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Stream;

/**
 * Rows of named values: columns for people, CSV (RFC 4180) or JSON lines for programs. Numbers are aligned to the
 * right.
 */
public final class Table {
    /** The forms of rows, in addition to the default of a command. */
    public enum Form {
        text,
        table,
        json,
        csv
    }

    private static final int WIDEST = 60;
    private static final int MOST_ZEROS = 20;

    private final List<String> names;
    private final List<List<Object>> rows = new ArrayList<>();
    private boolean isBegun;

    public Table(List<String> names) {
        this.names = List.copyOf(names);
    }

    /** Adds a row: for each name a text, a number, or null. */
    public void row(List<?> values) {
        rows.add(new ArrayList<>(values));
    }

    /** Returns the number of rows that were not printed yet. */
    int size() {
        return rows.size();
    }

    /** Prints the rows, preceded by the names once, and removes them; the form text is a table. */
    public void print(Form form, Console console) {
        Utf8Buffer to = new Utf8Buffer(4096);
        switch (form) {
            case json -> json(to);
            case csv -> csv(to);
            default -> columns(to);
        }
        console.print(to);
        rows.clear();
        isBegun = true;
    }

    private void columns(Utf8Buffer to) {
        int[] widths = new int[names.size()];
        for (int i = 0; i < widths.length; i++) {
            widths[i] = names.get(i).length();
            for (List<Object> row : rows) {
                widths[i] = Math.max(widths[i], shown(row.get(i)).length());
            }
        }
        if (!isBegun) {
            line(names, widths, to);
        }
        rows.forEach(row -> line(row, widths, to));
    }

    private void line(List<?> values, int[] widths, Utf8Buffer to) {
        StringBuilder line = new StringBuilder();
        for (int i = 0; i < widths.length; i++) {
            String text = shown(values.get(i));
            String pad = " ".repeat(widths[i] - text.length());
            line.append(i == 0 ? "" : "  ").append(isNumeric(i) ? pad + text : text + pad);
        }
        to.text(line.toString().stripTrailing()).ascii('\n');
    }

    private boolean isNumeric(int column) {
        return !rows.isEmpty()
                && rows.stream().map(row -> row.get(column)).allMatch(each -> each == null || each instanceof Number);
    }

    private static String shown(Object value) {
        if (value instanceof Long || value instanceof Integer) {
            return Counted.number(((Number) value).longValue());
        }
        String text = value == null
                ? ""
                : value instanceof BigDecimal number ? plain(number) : Escapes.visible(value.toString());
        return text.length() > WIDEST ? text.substring(0, WIDEST - 1) + "…" : text;
    }

    /** Returns a number without an exponent, unless it would have very many zeros. */
    private static String plain(BigDecimal number) {
        return Math.abs(number.scale()) <= MOST_ZEROS ? number.toPlainString() : number.toString();
    }

    private void csv(Utf8Buffer to) {
        if (!isBegun) {
            csvLine(names, to);
        }
        rows.forEach(row -> csvLine(row, to));
    }

    private static void csvLine(List<?> values, Utf8Buffer to) {
        for (int i = 0; i < values.size(); i++) {
            String text = values.get(i) == null ? "" : plain(values.get(i));
            boolean quotes = text.chars().anyMatch(c -> c == ',' || c == '"' || c < ' ');
            to.text(i == 0 ? "" : ",").text(quotes ? '"' + text.replace("\"", "\"\"") + '"' : text);
        }
        to.ascii("\r\n");
    }

    /** A text that a spreadsheet would evaluate as a formula is prefixed with an apostrophe; numbers are unchanged. */
    private static String plain(Object value) {
        String text = value instanceof BigDecimal number ? plain(number) : harmless(value.toString());
        boolean isFormula = !text.isEmpty()
                && "=+-@".indexOf(text.charAt(0)) >= 0
                && !(value instanceof Number)
                && Decimals.parse(text) == null;
        return isFormula ? "'" + text : text;
    }

    /** Line feeds are kept, because the value is quoted; other control characters are escaped. */
    private static String harmless(String text) {
        return String.join(
                "\n", Stream.of(text.split("\n", -1)).map(Escapes::visible).toList());
    }

    private void json(Utf8Buffer to) {
        for (List<Object> row : rows) {
            to.text(Json.of(Fields.of(f -> {
                        for (int i = 0; i < names.size(); i++) {
                            f.put(names.get(i), row.get(i));
                        }
                    })))
                    .ascii('\n');
        }
    }
}
