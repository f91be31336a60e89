package dev.graphema.terminal;

import java.io.Console;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.concurrent.TimeUnit;

/** Properties of the terminal of the process. */
public final class Terminals {
    private Terminals() {}

    /** Returns whether standard input and output are a terminal. */
    public static boolean isPresent() {
        Console console = System.console();
        if (console == null) {
            return false;
        }
        try {
            // From Java 22 on, there can be a console without a terminal, and a method that returns whether it has one.
            return (boolean) Console.class.getMethod("isTerminal").invoke(console);
        } catch (ReflectiveOperationException e) {
            return true;
        }
    }

    /** Returns colours for a terminal, unless NO_COLOR is set or TERM indicates that it has none. */
    public static Paint paint() {
        String noColor = System.getenv("NO_COLOR");
        boolean wanted = (noColor == null || noColor.isEmpty()) && !"dumb".equals(System.getenv("TERM"));
        return wanted && isPresent() ? Paint.ANSI : Paint.NONE;
    }

    /**
     * Returns the width of the terminal in characters, or 0 if it is unknown: then nothing is wrapped. Uses {@code
     * COLUMNS}, or else {@code stty}, which is called once and given half a second.
     */
    public static int width() {
        String columns = System.getenv("COLUMNS");
        if (columns != null && columns.matches("[1-9][0-9]{1,3}")) {
            return Integer.parseInt(columns);
        }
        try {
            Process stty = new ProcessBuilder("stty", "size")
                    .redirectInput(ProcessBuilder.Redirect.INHERIT)
                    .redirectError(ProcessBuilder.Redirect.DISCARD)
                    .start();
            if (!stty.waitFor(500, TimeUnit.MILLISECONDS)) {
                stty.destroyForcibly();
                return 0;
            }
            String size = new String(stty.getInputStream().readNBytes(32), StandardCharsets.US_ASCII).trim();
            return size.matches("[0-9]+ [1-9][0-9]{1,3}") ? Integer.parseInt(size.substring(size.indexOf(' ') + 1)) : 0;
        } catch (IOException e) {
            return 0; // there is no such command here
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            return 0;
        }
    }
}
