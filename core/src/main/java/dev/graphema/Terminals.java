package dev.graphema;

import dev.graphema.format.Paint;
import java.io.Console;

/** What is known of the terminal that the process writes to. */
final class Terminals {
    private Terminals() {}

    /**
     * Colours only where somebody looks: the process has a terminal, NO_COLOR is not set and TERM does not say that it can
     * nothing.
     */
    static Paint paint() {
        String noColor = System.getenv("NO_COLOR");
        boolean wanted = (noColor == null || noColor.isEmpty()) && !"dumb".equals(System.getenv("TERM"));
        return wanted && isTerminal() ? Paint.ANSI : Paint.NONE;
    }

    private static boolean isTerminal() {
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
}
