package dev.graphema.cli;

import dev.graphema.format.Paint;
import java.io.FileDescriptor;
import java.io.FileOutputStream;
import java.io.IOException;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.time.ZoneId;
import org.jline.terminal.Terminal;
import org.jline.terminal.TerminalBuilder;

/** Finds out what the process's streams are connected to. */
final class Terminals {
    /** Set by whoever starts the process, to be shown in place of the bare name. */
    private static final String COMMAND_PROPERTY = "graphema.command";

    private Terminals() {}

    static Console console() {
        int width = isTerminal() ? width() : 0;
        String noColor = System.getenv("NO_COLOR");
        boolean coloured = width > 0 && (noColor == null || noColor.isEmpty()) && !"dumb".equals(System.getenv("TERM"));
        return new Console(
                System.getProperty(COMMAND_PROPERTY, "graphema"),
                System.in,
                new FileOutputStream(FileDescriptor.out),
                new PrintStream(new FileOutputStream(FileDescriptor.err), true, StandardCharsets.UTF_8),
                coloured ? Paint.ANSI : Paint.NONE,
                width,
                ZoneId.systemDefault());
    }

    private static boolean isTerminal() {
        java.io.Console console = System.console();
        if (console == null) {
            return false;
        }
        try {
            // From Java 22 on there may be a console without a terminal, and a method that tells.
            return (boolean) java.io.Console.class.getMethod("isTerminal").invoke(console);
        } catch (ReflectiveOperationException e) {
            return true;
        }
    }

    private static int width() {
        try (Terminal terminal =
                TerminalBuilder.builder().system(true).dumb(false).build()) {
            return terminal.getWidth() > 0 ? terminal.getWidth() : 80;
        } catch (IOException | IllegalStateException e) {
            return 80; // a terminal that does not tell its width
        }
    }
}
