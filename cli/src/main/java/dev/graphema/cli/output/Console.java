package dev.graphema.cli.output;

import dev.graphema.terminal.Paint;
import dev.graphema.text.Escapes;
import dev.graphema.text.Utf8Buffer;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.io.PrintStream;
import java.time.ZoneId;
import java.util.Locale;
import java.util.function.BooleanSupplier;

/**
 * The streams of the command, and properties of the terminal. Results are written to the output, everything else to the
 * error stream.
 *
 * @param command how the command was called, for suggested commands
 * @param input standard input
 * @param output standard output, unbuffered
 * @param error standard error
 * @param paint whether colours may be used
 * @param width the width of the terminal in characters, or 0 if output goes elsewhere
 * @param zone the time zone of local times; null for that of the machine, which is determined when needed
 * @param stop returns whether to stop; the results so far are shown
 */
public record Console(
        String command,
        InputStream input,
        OutputStream output,
        PrintStream error,
        Paint paint,
        int width,
        ZoneId zone,
        BooleanSupplier stop) {
    private static final int NARROWEST_TEXT = 80;
    private static final int WIDEST_TEXT = 120;

    /** The output has failed, or its reader has closed it, as {@code head} does, which is not an error. */
    public static final class OutputException extends RuntimeException {
        private static final long serialVersionUID = 1;

        OutputException(IOException cause) {
            super(cause);
        }

        /**
         * Returns whether the reader has closed the output. The JDK reports this only in the message of the operating
         * system.
         */
        public boolean isClosedByReader() {
            String why = getCause().getMessage();
            return why != null && why.toLowerCase(Locale.ROOT).contains("pipe");
        }
    }

    /** Returns the console with this time zone. */
    public Console in(ZoneId other) {
        return new Console(command, input, output, error, paint, width, other, stop);
    }

    /** Returns the console with this width and no colours, for texts that are not printed. */
    Console plain(int columns) {
        return new Console(command, input, output, error, Paint.NONE, columns, zone, stop);
    }

    /** Returns the time zone of local times. */
    @Override
    public ZoneId zone() {
        return zone == null ? ZoneId.systemDefault() : zone;
    }

    /** Determines the time zone in the background, because its rules are read from the disk. */
    public void prepareZone() {
        if (zone == null) {
            Thread thread = new Thread(() -> ZoneId.systemDefault().getRules(), "graphema-zone");
            thread.setDaemon(true);
            thread.start();
        }
    }

    /** Returns the width of paragraphs, which are hard to read on a wide screen. */
    public int textWidth() {
        return Math.max(NARROWEST_TEXT, Math.min(WIDEST_TEXT, width));
    }

    /** Writes the buffer to the output and clears it. */
    public void print(Utf8Buffer buffer) {
        try {
            buffer.writeTo(output);
            output.flush();
            buffer.clear();
        } catch (IOException e) {
            throw new OutputException(e);
        }
    }

    /** Writes a line to the output. */
    public void print(String line) {
        print(new Utf8Buffer(line.length() + 16).text(line).ascii('\n'));
    }

    /** Writes lines to the error stream; nothing in them can control a terminal. */
    public void note(String lines) {
        lines.lines().forEach(line -> error.println(Escapes.visible(line)));
    }
}
