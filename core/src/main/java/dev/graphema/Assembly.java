package dev.graphema;

import dev.graphema.event.GraphemaException;
import dev.graphema.format.Columns;
import dev.graphema.format.Format;
import dev.graphema.format.JsonLines;
import dev.graphema.format.KeyValue;
import dev.graphema.format.Paint;
import dev.graphema.format.SyslogLines;
import dev.graphema.format.Terminals;
import dev.graphema.pipeline.Pipeline;
import dev.graphema.pipeline.Reporter;
import dev.graphema.redaction.Redactor;
import dev.graphema.sampling.Sampler;
import dev.graphema.settings.Settings;
import dev.graphema.settings.SinkSettings;
import dev.graphema.sink.FileOptions;
import dev.graphema.sink.FileSink;
import dev.graphema.sink.Sink;
import dev.graphema.sink.StreamSink;
import java.io.FileDescriptor;
import java.io.FileOutputStream;
import java.io.IOException;
import java.nio.file.Path;
import java.time.ZoneId;
import java.util.LinkedHashMap;
import java.util.Map;

/** Makes the running parts that settings ask for. */
final class Assembly {
    /** The syslog facility "local use 0". */
    private static final int FACILITY = 16;

    private Assembly() {}

    /**
     * Opens the sinks and starts the pipeline.
     *
     * @throws GraphemaException when a sink cannot be opened; none is left open then
     */
    static Pipeline start(Settings settings) {
        Reporter reporter = Reporter.standardError();
        Map<String, Sink> sinks = opened(settings, reporter);
        Pipeline.Builder pipeline = Pipeline.builder()
                .service(settings.service())
                .instance(settings.instance())
                .sampler(new Sampler(
                        settings.sampling(), () -> Surroundings.here().nextId()))
                .reporter(reporter)
                .synchronous(settings.synchronous())
                .redactor(new Redactor(settings.detectors().stream()
                        .map(Redactor::readyDetector)
                        .toList()));
        settings.sinks().forEach((name, sink) -> pipeline.sink(name, sinks.get(name), sink.threshold()));
        settings.routes().forEach(pipeline::route);
        return pipeline.start();
    }

    private static Map<String, Sink> opened(Settings settings, Reporter reporter) {
        Map<String, Sink> opened = new LinkedHashMap<>();
        settings.sinks().forEach((name, sink) -> {
            try {
                opened.put(name, open(sink, settings, reporter));
            } catch (IOException e) {
                GraphemaException problem = new GraphemaException(
                        "the sink " + name + " cannot be opened: " + e + "; check its path and who may write there", e);
                closeAll(opened, problem);
                throw problem;
            }
        });
        return opened;
    }

    private static Sink open(SinkSettings sink, Settings settings, Reporter reporter) throws IOException {
        if (sink instanceof SinkSettings.File file) {
            return FileSink.open(named(file.options(), settings), format(file.format(), false), reporter::report);
        }
        if (sink instanceof SinkSettings.Console console) {
            boolean error = console.stream() == SinkSettings.Stream.ERROR;
            // The descriptors, not System.out and System.err: whatever the program puts in their place is its own
            // affair.
            FileOutputStream stream = new FileOutputStream(error ? FileDescriptor.err : FileDescriptor.out);
            return new StreamSink(stream, format(console.format(), true));
        }
        return ((SinkSettings.Given) sink).sink();
    }

    /** The options with service and instance put into the path. */
    private static FileOptions named(FileOptions options, Settings settings) {
        String path = options.path()
                .toString()
                .replace("{service}", plain(settings.service(), "service"))
                .replace("{instance}", plain(settings.instance(), "instance"));
        return options.at(Path.of(path));
    }

    /** The name without what would lead into another folder. */
    private static String plain(String name, String otherwise) {
        return name == null ? otherwise : name.replaceAll("[/\\\\:]", "_");
    }

    private static Format format(SinkSettings.FormatName name, boolean onConsole) {
        return switch (name) {
            case JSON -> new JsonLines();
            case KEY_VALUE -> new KeyValue();
            case SYSLOG -> SyslogLines.of(FACILITY);
            case COLUMNS ->
                Columns.of(
                        ZoneId.systemDefault(), onConsole ? columns() : 0, onConsole ? Terminals.paint() : Paint.NONE);
            case AUTO ->
                format(
                        onConsole && Terminals.isPresent()
                                ? SinkSettings.FormatName.COLUMNS
                                : SinkSettings.FormatName.JSON,
                        onConsole);
        };
    }

    /** The terminal's width as the shell tells it to its children, or 0 where it does not: then nothing is wrapped. */
    private static int columns() {
        String columns = System.getenv("COLUMNS");
        return columns != null && columns.matches("[1-9][0-9]{1,3}") && Terminals.isPresent()
                ? Integer.parseInt(columns)
                : 0;
    }

    private static void closeAll(Map<String, Sink> opened, GraphemaException problem) {
        opened.values().forEach(sink -> {
            try {
                sink.close();
            } catch (IOException | RuntimeException e) {
                problem.addSuppressed(e);
            }
        });
    }
}
