package dev.graphema.examples;

import dev.graphema.cli.arguments.Argument;
import dev.graphema.cli.arguments.MisuseException;
import dev.graphema.cli.output.Counted;
import dev.graphema.cli.output.Shell;
import dev.graphema.cli.verb.Verb;
import dev.graphema.examples.day.Day;
import dev.graphema.lines.LineFiles;
import dev.graphema.query.Question;
import dev.graphema.query.source.QueryExecutor;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;

/** Runs Skerry Line and finds the cause of its failures. */
public final class DemoVerb extends Verb {
    private final Argument<Path> folder = own().option(
                    "--folder",
                    "DIR",
                    Path.of("skerry-line"),
                    Path::of,
                    "Where settings and logs are laid; emptied when an earlier demo left it. Default: skerry-line.");
    private final Argument<Path> recorded =
            own().path("--logs", "DIR", "Start no services: show the finding on the logs in DIR.");
    private final Argument<Variant.Name> variant = own().choice(
                    "--variant",
                    "NAME",
                    Variant.Name.FILES,
                    "Where events go beside the files: files, postgresql, otlp, collector or kafka. Default: files alone.");
    private final Argument<Path> day = own().path(
                    "--day",
                    "DIR",
                    "Start no services: write the logs of a whole morning into DIR, the same each time, for docs/finding.md.");

    public DemoVerb() {
        super("demo", "Runs a made-up ferry operator, and finds out what went wrong.");
    }

    @Override
    protected String details() {
        return "Its services run for a scripted quarter of an hour, pressed into about twenty seconds.";
    }

    @Override
    protected String examples() {
        return """
                graphema demo

                The events also go into a real database, to a collector or through a real broker to two of them, started for it,
                or to a stand-in that speaks OTLP:
                graphema demo --variant postgresql
                graphema demo --variant collector
                graphema demo --variant kafka
                graphema demo --variant otlp

                The finding alone, on logs recorded earlier:
                graphema demo --logs examples/recorded
                """;
    }

    @Override
    public int call() throws IOException, InterruptedException, MisuseException {
        if (day.isGiven()) {
            Day.write(day.value());
            console().print("The logs of 2026-05-15, 06:00 to 08:30 at +01:00, are in " + day.value() + ".");
            return 0;
        }
        if (recorded.isGiven()) {
            if (!Files.exists(recorded.value())) {
                throw new NoSuchFileException(recorded.value().toString());
            }
            return new Walk(console(), recorded.value()).run() ? 0 : NOTHING;
        }
        DemoFolder.prepare(folder.value());
        Path logs = folder.value().resolve("logs");
        boolean complete;
        boolean found;
        try (Variant further = Variant.start(variant.value(), folder.value().toAbsolutePath())) {
            complete = compare(live(further), logs);
            found = new Walk(console(), logs).run();
            complete &= further.report(console(), logs);
        }
        console().print("");
        console()
                .print("Everything is in " + folder.value().toAbsolutePath()
                        + ": logs, and the settings of each service.");
        console()
                .print("To read them in a browser: " + console().command() + " page --in "
                        + Shell.quoted(logs.toAbsolutePath().toString()));
        return complete && found ? 0 : NOTHING;
    }

    private Map<Integer, Integer> live(Variant further) throws IOException, InterruptedException {
        console()
                .print("Starting booking, deck-1, deck-2 and gate, each in a process of its own. What they show on the"
                        + " screen is indented.");
        Map<Integer, Integer> answers;
        try (SkerryLine line = SkerryLine.start(
                folder.value().toAbsolutePath(), further, shown -> console().print("    " + shown))) {
            answers = new Driver(line, console()::print).run();
        }
        console().print("The services are stopped.");
        return answers;
    }

    /** Reports whether every request has its event. */
    private boolean compare(Map<Integer, Integer> answers, Path logs) throws IOException {
        int sent = answers.values().stream().mapToInt(Integer::intValue).sum();
        long written = QueryExecutor.answer(
                        Question.where("message = request and service = booking")
                                .newest(0),
                        LineFiles.at(List.of(logs)))
                .matching();
        console().print("");
        console()
                .print("The passengers sent " + Counted.of(sent, "request") + " (answers: "
                        + answers.entrySet().stream()
                                .map(answer -> answer.getValue() + " with " + answer.getKey())
                                .collect(Collectors.joining(", "))
                        + "); the logs contain " + written + ".");
        return written == sent;
    }
}
