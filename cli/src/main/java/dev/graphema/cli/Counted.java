package dev.graphema.cli;

/** Numbers of things, as they stand in a sentence. */
public final class Counted {
    private Counted() {}

    /** {@code 1 file}, {@code 1,204 files}. */
    public static String of(long count, String thing) {
        return String.format("%,d %s%s", count, thing, count == 1 ? "" : "s");
    }
}
