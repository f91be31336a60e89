package dev.graphema.format;

import java.io.Console;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.concurrent.TimeUnit;

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

    /**
     * The terminal's width in characters, or 0 when it cannot be found: then nothing is wrapped. The shell's {@code
     * COLUMNS} counts; else the system's {@code stty} is asked once, for half a second at the most.
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
