package dev.graphema.examples;

import dev.graphema.cli.Counted;
import dev.graphema.cli.Main;
import dev.graphema.cli.MisuseException;
import dev.graphema.cli.Verb;
import dev.graphema.condition.Condition;
import dev.graphema.examples.day.Day;
import dev.graphema.query.Logs;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.util.Map;
import java.util.stream.Collectors;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;

/** Runs Skerry Line and finds out what went wrong. */
@Command(
        name = "demo",
        mixinStandardHelpOptions = true,
        synopsisHeading = "Usage: ",
        description =
                "Runs the services of a made-up ferry operator for a scripted quarter of an hour, pressed into about"
                        + " twenty seconds, and then finds out what went wrong.",
        footer = {
            "",
            "Examples:",
            "  graphema demo",
            "  graphema demo --variant postgresql   (the events also go into a real database, started for it)",
            "  graphema demo --variant otlp         (the events also go to a stand-in for a collector)",
            "  graphema demo --logs examples/recorded     (the finding alone, on logs recorded earlier)"
        })
public final class DemoVerb extends Verb {
    @Option(
            names = "--folder",
            paramLabel = "DIR",
            description =
                    "Where settings and logs are laid; emptied when an earlier demo left it. Default: skerry-line.")
    private Path folder = Path.of("skerry-line");

    @Option(
            names = "--logs",
            paramLabel = "DIR",
            description = "Start no services: show the finding on the logs in DIR.")
    private Path recorded;

    @Option(
            names = "--variant",
            paramLabel = "NAME",
            description = "Where events go beside the files: ${COMPLETION-CANDIDATES}. Default: files alone.")
    private Variant.Name variant = Variant.Name.FILES;

    @Option(
            names = "--day",
            paramLabel = "DIR",
            description =
                    "Start no services: write the logs of a whole morning into DIR, the same each time, for docs/finding.md.")
    private Path day;

    @Override
    public Integer call() throws IOException, InterruptedException, MisuseException {
        if (day != null) {
            Day.write(day);
            console().print("The logs of 2026-05-15, 06:00 to 08:30 at +01:00, lie in " + day + ".");
            return 0;
        }
        if (recorded != null) {
            if (!Files.exists(recorded)) {
                throw new NoSuchFileException(recorded.toString());
            }
            return new Walk(console(), recorded).run() ? 0 : Main.NOTHING;
        }
        DemoFolder.prepare(folder);
        Path logs = folder.resolve("logs");
        boolean complete;
        boolean found;
        try (Variant further = Variant.start(variant, folder.toAbsolutePath())) {
            complete = compare(live(further), logs);
            found = new Walk(console(), logs).run();
            complete &= further.tell(console(), logs);
        }
        console().print("");
        console().print("Everything lies in " + folder.toAbsolutePath() + ": logs, and the settings of each service.");
        return complete && found ? 0 : Main.NOTHING;
    }

    private Map<Integer, Integer> live(Variant further) throws IOException, InterruptedException {
        console()
                .print("Starting booking, deck-1, deck-2 and gate, each in a process of its own. What they show on the"
                        + " screen is indented.");
        Map<Integer, Integer> answers;
        try (SkerryLine line = SkerryLine.start(
                folder.toAbsolutePath(), further, shown -> console().print("    " + shown))) {
            answers = new Driver(line, console()::print).run();
        }
        console().print("The services are stopped.");
        return answers;
    }

    /** Tells whether every request that was sent has its event. */
    private boolean compare(Map<Integer, Integer> answers, Path logs) throws IOException {
        int sent = answers.values().stream().mapToInt(Integer::intValue).sum();
        long[] told = {0};
        Logs.at(java.util.List.of(logs))
                .where(Condition.parse("message = request and service = booking"))
                .read(event -> {
                    told[0]++;
                    return true;
                });
        console().print("");
        console()
                .print("The passengers sent " + Counted.of(sent, "request") + " (answers: "
                        + answers.entrySet().stream()
                                .map(answer -> answer.getValue() + " with " + answer.getKey())
                                .collect(Collectors.joining(", "))
                        + "); the logs tell of " + told[0] + ".");
        return told[0] == sent;
    }
}
