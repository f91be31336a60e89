package dev.graphema.sink;

import dev.graphema.option.Option;
import dev.graphema.option.Options;
import java.io.FileDescriptor;
import java.io.FileOutputStream;
import java.util.List;

/** Standard output or standard error. */
public final class ConsoleKind implements SinkKind {
    /** The standard streams of the process. */
    public enum Stream {
        OUTPUT,
        ERROR
    }

    public static final Option<Stream> STREAM =
            Option.word("stream", Stream.class).standard(Stream.OUTPUT).meaning("standard output or standard error");

    ConsoleKind() {}

    @Override
    public String name() {
        return "console";
    }

    @Override
    public String meaning() {
        return "standard output or standard error";
    }

    @Override
    public List<Option<?>> options() {
        return List.of(STREAM);
    }

    @Override
    public String usualFormat() {
        return "columns";
    }

    @Override
    public boolean isConsole() {
        return true;
    }

    @Override
    public Sink open(Options options, SinkContext context) {
        // The descriptors, not System.out and System.err: a program may replace those.
        FileDescriptor descriptor = options.get(STREAM) == Stream.ERROR ? FileDescriptor.err : FileDescriptor.out;
        return new StreamSink(new FileOutputStream(descriptor), context.format());
    }

    @Override
    public String toString() {
        return name();
    }
}
