package dev.graphema.cli.store;

import dev.graphema.cli.arguments.Argument;
import dev.graphema.cli.arguments.MisuseException;
import dev.graphema.cli.output.Counted;
import dev.graphema.cli.verb.Verb;
import dev.graphema.lines.Decompression;
import dev.graphema.lines.LineFiles;
import dev.graphema.lines.shape.LineShape;
import dev.graphema.segments.store.Store;
import dev.graphema.segments.store.StoreOptions;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;

/** Appends lines to a store. */
public final class StoreVerb extends Verb {
    private static final int BUFFER = 1 << 20;

    private final Argument<List<String>> in = own().texts(
                    "--in",
                    "FILE|DIR|-",
                    "Log files, or folders with them, or - for standard input, which is stored as it arrives. May be given"
                            + " several times. Default: standard input.");
    private final Argument<Path> to = own().path("--to", "DIR", "The folder of the store, which is created.");
    private long stored;
    private boolean hasFailed;

    public StoreVerb() {
        super("store", "Appends lines to a store, which keeps them compactly and by rules.");
    }

    @Override
    protected String details() {
        return "All search commands read the store, also meanwhile. Lines are on the disk before the next ones are read. The"
                + " file rules.yaml in the store defines how long events are kept. Events whose lines have an id are stored once,"
                + " however often they come within some hundred thousand events; others as often as they come.";
    }

    @Override
    protected String examples() {
        return """
                my-service | graphema store --to store
                graphema store --in logs --to store
                graphema find 'level >= error' --in store
                """;
    }

    @Override
    public int call() throws IOException, MisuseException {
        if (!to.isGiven()) {
            throw new MisuseException("there is no folder for the store: expected --to and a folder");
        }
        List<String> inputs = in.isGiven() ? in.value() : List.of("-");
        if (inputs.contains("-") && inputs.size() > 1) {
            throw new MisuseException(
                    "--in - reads standard input and cannot be combined with files: expected one of the two");
        }
        List<Path> logs = inputs.contains("-")
                ? List.of()
                : LineFiles.at(inputs.stream().map(Path::of).toList()).files();
        if (logs.isEmpty() && !inputs.contains("-")) {
            throw new MisuseException("no .jsonl, .ndjson or .log file there; name files or another folder with --in");
        }
        boolean isNew = !Files.exists(to.value());
        try (Store store = Store.open(to.value(), StoreOptions.usual(this::failed))) {
            if (logs.isEmpty()) {
                append(console().input(), "standard input", store);
            }
            for (Path log : logs) {
                try (InputStream lines = Decompression.of(log)) {
                    append(lines, log.toString(), store);
                }
            }
            store.tidy();
        } catch (IOException e) {
            if (stored == 0) {
                throw e;
            }
            throw new IOException(
                    e.getMessage() + "; " + Counted.of(stored, "line") + " were stored in " + to.value(), e);
        }
        console().print(Counted.of(stored, "line") + " stored in " + to.value());
        if (isNew) {
            console().note("to search them: " + console().command() + " find 'level >= error' --in " + to.value());
        }
        return 0;
    }

    private void failed(String problem) {
        hasFailed = true;
        console().note(problem);
    }

    @Override
    public boolean hasFailed() {
        return hasFailed;
    }

    private void append(InputStream lines, String name, Store store) throws IOException {
        byte[] buffer = new byte[BUFFER];
        int length = 0;
        int count;
        while (!console().stop().getAsBoolean() && (count = lines.read(buffer, length, buffer.length - length)) >= 0) {
            int end = length + count;
            int complete = end;
            while (complete > length && buffer[complete - 1] != '\n') {
                complete--;
            }
            if (complete > length) {
                store(buffer, complete, store);
                System.arraycopy(buffer, complete, buffer, 0, end - complete);
                length = end - complete;
            } else {
                length = end;
            }
            if (length == buffer.length) {
                if (length > LineShape.MAX_LINE) {
                    throw new IOException(name + ": a line is longer than " + LineShape.MAX_LINE + " bytes");
                }
                buffer = Arrays.copyOf(buffer, 2 * length);
            }
        }
        if (length > 0) {
            store(buffer, length, store);
        }
    }

    private void store(byte[] lines, int length, Store store) throws IOException {
        store.append(Arrays.copyOf(lines, length));
        for (int i = 0; i < length; i++) {
            stored += lines[i] == '\n' ? 1 : 0;
        }
        stored += lines[length - 1] == '\n' ? 0 : 1;
    }
}
