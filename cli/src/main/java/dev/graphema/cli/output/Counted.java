package dev.graphema.cli.output;

import dev.graphema.query.answer.Coverage;

/** Formats numbers and counts in sentences and columns, without the slow formatters of the JDK. */
public final class Counted {
    private static final int GROUP = 3;

    private Counted() {}

    /** {@code 1 file}, {@code 1,204 files}. */
    public static String of(long count, String thing) {
        return number(count) + " " + thing + (count == 1 ? "" : "s");
    }

    /** Returns a number of bytes in a unit that suits it: {@code 94 kB}; units are multiples of 1024. */
    public static String size(long bytes) {
        if (bytes < 10 << 10) {
            return of(bytes, "byte");
        }
        return bytes < 10 << 20 ? number(bytes >> 10) + " kB" : number(bytes >> 20) + " MB";
    }

    /** {@code 1,204}. */
    public static String number(long count) {
        StringBuilder text = new StringBuilder().append(count);
        int first = count < 0 ? 1 : 0;
        for (int at = text.length() - GROUP; at > first; at -= GROUP) {
            text.insert(at, ',');
        }
        return text.toString();
    }

    /** {@code 12.5}: rounded to one decimal. */
    public static String tenths(double number) {
        long tenths = Math.round(number * 10);
        return tenths / 10 + "." + tenths % 10;
    }

    /** Pads with spaces on the left to a width. */
    public static String right(String text, int width) {
        return " ".repeat(Math.max(0, width - text.length())) + text;
    }

    /** {@code 1,204 read in 3 files}; of a table, which is no file, {@code 1,204 read}. */
    public static String read(Coverage coverage) {
        String events = number(coverage.events()) + " read";
        return coverage.files() == 0 ? events : events + " in " + of(coverage.files(), "file");
    }
}
