package dev.graphema.cli.output;

import dev.graphema.terminal.Terminals;
import java.io.FileDescriptor;
import java.io.FileOutputStream;
import java.io.IOException;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.util.function.BooleanSupplier;
import org.jline.terminal.Terminal;
import org.jline.terminal.TerminalBuilder;

/** Determines the properties of the standard streams. */
public final class ProcessConsole {
    /** Set by the launcher, to be shown as the name of the command. */
    private static final String COMMAND_PROPERTY = "graphema.command";

    private static final int USUAL_WIDTH = 80;

    private ProcessConsole() {}

    /** @param stop returns whether to stop */
    public static Console open(BooleanSupplier stop) {
        return new Console(
                System.getProperty(COMMAND_PROPERTY, "graphema"),
                System.in,
                new FileOutputStream(FileDescriptor.out),
                new PrintStream(new FileOutputStream(FileDescriptor.err), true, StandardCharsets.UTF_8),
                Terminals.paint(),
                Terminals.isPresent() ? width() : 0,
                null,
                stop);
    }

    private static int width() {
        try (Terminal terminal =
                TerminalBuilder.builder().system(true).dumb(false).build()) {
            return terminal.getWidth() > 0 ? terminal.getWidth() : USUAL_WIDTH;
        } catch (IOException | IllegalStateException e) {
            return USUAL_WIDTH; // a terminal that does not report its width
        }
    }
}
