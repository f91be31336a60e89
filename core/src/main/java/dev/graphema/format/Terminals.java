package dev.graphema.format;

import java.io.Console;

/** What is known of the terminal that the process writes to. */
public final class Terminals {
    private Terminals() {}

    /** Whether somebody looks: standard input and output belong to a terminal. */
    public static boolean isPresent() {
        Console console = System.console();
        if (console == null) {
            return false;
        }
        try {
            // From Java 22 on there may be a console without a terminal, and a method that tells.
            return (boolean) Console.class.getMethod("isTerminal").invoke(console);
        } catch (ReflectiveOperationException e) {
            return true;
        }
    }

    /** Colours where somebody looks, unless NO_COLOR is set or TERM says that the terminal can do nothing. */
    public static Paint paint() {
        String noColor = System.getenv("NO_COLOR");
        boolean wanted = (noColor == null || noColor.isEmpty()) && !"dumb".equals(System.getenv("TERM"));
        return wanted && isPresent() ? Paint.ANSI : Paint.NONE;
    }
}
