package dev.graphema.cli;

import dev.graphema.format.Escapes;
import dev.graphema.format.Paint;
import dev.graphema.format.Utf8Buffer;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.io.PrintStream;
import java.time.ZoneId;
import java.util.Locale;
import java.util.function.BooleanSupplier;

/**
 * Where the command reads and writes, and what is known of the terminal. Results go to the output, everything else to the
 * error stream.
 *
 * @param command how the command was called, for commands that are shown to be repeated
 * @param input standard input
 * @param output standard output, not buffered
 * @param error standard error
 * @param paint whether colours may be used
 * @param width the terminal's width in characters, or 0 when output goes elsewhere
 * @param zone in which local times are read and shown; null for this machine's, which is found out when it is needed
 * @param stop whether somebody asked to stop: what was found so far is still shown
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

    /** The output takes no more: it has been closed by whoever read it, as {@code head} does, which is the end of the work and no fault; or it failed. */
    public static final class OutputException extends RuntimeException {
        private static final long serialVersionUID = 1;

        OutputException(IOException cause) {
            super(cause);
        }

        /** Whether its reader has enough. The JDK tells that in words alone, those of the operating system. */
        boolean isClosedByReader() {
            String why = getCause().getMessage();
            return why != null && why.toLowerCase(Locale.ROOT).contains("pipe");
        }
    }

    /** The same, but for times, which are those of that zone. */
    Console in(ZoneId other) {
        return new Console(command, input, output, error, paint, width, other, stop);
    }

    /** In which local times are read and shown. */
    @Override
    public ZoneId zone() {
        return zone == null ? ZoneId.systemDefault() : zone;
    }

    /** Lets the zone be found out beside other work: its rules come from the disk, by way of all libraries. */
    void prepareZone() {
        if (zone == null) {
            Thread thread = new Thread(() -> ZoneId.systemDefault().getRules(), "graphema-zone");
            thread.setDaemon(true);
            thread.start();
        }
    }

    /** How wide running text is, which is not easy to read when it is as wide as a large screen. */
    int textWidth() {
        return Math.max(NARROWEST_TEXT, Math.min(WIDEST_TEXT, width));
    }

    /** Writes the buffer to the output and empties it. */
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

    /** Writes a line, or several, to the error stream; nothing in them can steer a terminal. */
    public void say(String lines) {
        lines.lines().forEach(line -> error.println(Escapes.visible(line)));
    }
}
