package dev.graphema.cli;

import static org.junit.jupiter.api.Assertions.assertEquals;

import dev.graphema.cli.output.Console;
import dev.graphema.terminal.Paint;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.ZoneId;
import java.util.function.BooleanSupplier;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.io.TempDir;

/** Drives the command as a user does, in this process, on two small log files. */
public abstract class CommandFixture {
    protected static final String TRACE = "4bf92f3577b34da6a3ce929d0e0e4736";

    @TempDir
    protected Path folder;

    protected String output;
    protected String error;
    protected InputStream input = InputStream.nullInputStream();
    protected Path logs;
    protected BooleanSupplier stop = () -> false;

    @BeforeEach
    void writeLogs() throws IOException {
        logs = Files.createDirectories(folder.resolve("logs"));
        Files.writeString(logs.resolve("booking.jsonl"), """
                {"time":"2026-05-15T06:31:02.000Z","level":"info","service":"booking","logger":"skerry.booking","message":"crossing asked for","trace":"%1$s","span":"0000000000000001","fields":{"booking":"B0047113"}}
                {"time":"2026-05-15T06:31:02.300Z","level":"error","service":"booking","logger":"skerry.booking","message":"request","trace":"%1$s","span":"0000000000000001","fields":{"method":"POST","path":"/sailings","status":503,"elapsed":"PT0.3S","outcome":"failure"}}
                """.formatted(TRACE));
        Files.writeString(logs.resolve("deck-2.jsonl"), """
                {"time":"2026-05-15T06:31:02.290Z","level":"error","service":"deck","instance":"deck-2","logger":"skerry.deck","message":"reserve lanes","trace":"%1$s","span":"0000000000000002","parent":"0000000000000001","fields":{"elapsed":"PT0.28S","outcome":"failure"},"failure":{"type":"skerry.deck.LaneTimeout","message":"lane A3 was not free","frames":["skerry.deck.Lanes.take(Lanes.java:42)"]}}
                {"time":"2026-05-16T06:00:00.000Z","level":"info","service":"deck","instance":"deck-2","logger":"skerry.deck","message":"next day","fields":{"lock_wait_ms":250}}
                """.formatted(TRACE));
    }

    protected void misused(String message, String... arguments) {
        assertEquals(2, run(arguments));
        assertEquals("", output);
        assertEquals(message, error);
    }

    protected String emptyFolder() {
        try {
            return Files.createDirectories(folder.resolve("empty")).toString();
        } catch (IOException e) {
            throw new java.io.UncheckedIOException(e);
        }
    }

    protected int run(String... arguments) {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        int code = run(out, arguments);
        output = out.toString(StandardCharsets.UTF_8);
        return code;
    }

    protected int run(OutputStream out, String... arguments) {
        ByteArrayOutputStream err = new ByteArrayOutputStream();
        Console console = new Console(
                "graphema",
                input,
                out,
                new PrintStream(err, true, StandardCharsets.UTF_8),
                Paint.NONE,
                0,
                ZoneId.of("Europe/Berlin"),
                () -> stop.getAsBoolean());
        int code = Main.run(console, arguments);
        error = err.toString(StandardCharsets.UTF_8);
        return code;
    }
}
