package dev.graphema.cli;

import dev.graphema.event.Draft;
import dev.graphema.event.Level;
import dev.graphema.event.Times;
import dev.graphema.event.TraceId;
import dev.graphema.explain.Explainer;
import dev.graphema.explain.Explanation;
import dev.graphema.explain.FieldsText;
import dev.graphema.explain.Review;
import dev.graphema.format.Utf8Buffer;
import dev.graphema.settings.Settings;
import java.io.IOException;
import java.util.List;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** Tells what becomes of an event, and why. */
@Command(
        name = "explain",
        mixinStandardHelpOptions = true,
        synopsisHeading = "Usage: ",
        description =
                "Tells what becomes of an event under a settings file: which threshold decides and where it was set,"
                        + " what sampling does, which routes take it and why the others do not, and which sinks get it. Without a"
                        + " logger, tells what in the settings cannot be meant. Exit code 1 when the event goes nowhere, or when"
                        + " something cannot be meant.",
        footer = {
            "",
            "Examples:",
            "  graphema explain skerry.deck.Lanes debug lane=A3 --settings deck.yaml",
            "  graphema explain --settings deck.yaml",
            "",
            "A running program tells the same by Graphema.explain and through JMX, with what was set by hand."
        })
public final class ExplainVerb extends Verb {
    @Parameters(index = "0", arity = "0..1", paramLabel = "LOGGER", description = "The logger that says it")
    private String logger;

    @Parameters(index = "1", arity = "0..1", paramLabel = "LEVEL", description = "Its level. Default: info")
    private Level level = Level.INFO;

    @Parameters(index = "2..*", paramLabel = "NAME=VALUE", description = "Its fields, those of the context included")
    private List<String> fields = List.of();

    @Option(names = "--message", paramLabel = "TEXT", description = "Its message")
    private String message = "";

    @Option(names = "--trace", paramLabel = "ID", description = "The trace to which it belongs")
    private String trace;

    @Mixin
    private SettingsFileOption settingsFile = new SettingsFileOption();

    @Override
    public Integer call() throws IOException, MisuseException {
        Settings settings = settingsFile.read();
        if (logger == null) {
            return review(settings);
        }
        Explanation explanation = new Explainer(settings).explain(draft());
        console().print("by " + settingsFile.name());
        for (String line : explanation.toString().split("\n")) {
            // The file is named above: within its lines, the place in it is enough.
            print(line.replace(settingsFile.name() + ":", "line "));
        }
        return explanation.sinks().isEmpty() ? Main.NOTHING : 0;
    }

    private Draft draft() throws MisuseException {
        Draft draft = new Draft()
                .time(Times.now())
                .logger(logger)
                .level(level)
                .message(message)
                .thread(Thread.currentThread().getName());
        for (String field : fields) {
            try {
                draft.fields(FieldsText.pair(field));
            } catch (IllegalArgumentException e) {
                throw new MisuseException(e.getMessage());
            }
        }
        if (trace != null) {
            TraceId id = TraceId.parse(trace);
            if (id == null) {
                throw new MisuseException("--trace " + trace + " is no trace id: expected 32 hexadecimal digits");
            }
            draft.trace(id, null, null);
        }
        return draft;
    }

    /** What turns the event away stands out; the word for it alone would be enough. */
    private void print(String line) {
        if (line.startsWith("  NO ")) {
            Utf8Buffer buffer = new Utf8Buffer(line.length() + 16);
            console().paint().strong(buffer, line);
            console().print(buffer.ascii('\n'));
        } else {
            console().print(line);
        }
    }

    private int review(Settings settings) {
        List<Review.Finding> findings = Review.of(settings);
        findings.forEach(finding -> console().print(finding.toString()));
        console()
                .print(
                        findings.isEmpty()
                                ? settingsFile.name() + ": every route and rule can match, and every sink is reached"
                                : Counted.of(findings.size(), "finding"));
        return findings.isEmpty() ? 0 : Main.NOTHING;
    }
}
