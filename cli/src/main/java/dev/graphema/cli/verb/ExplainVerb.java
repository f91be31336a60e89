package dev.graphema.cli.verb;

import dev.graphema.cli.arguments.Argument;
import dev.graphema.cli.arguments.Group;
import dev.graphema.cli.arguments.MisuseException;
import dev.graphema.cli.output.Counted;
import dev.graphema.event.Draft;
import dev.graphema.event.Level;
import dev.graphema.explain.Explainer;
import dev.graphema.explain.Explanation;
import dev.graphema.explain.FieldsText;
import dev.graphema.explain.Review;
import dev.graphema.settings.Settings;
import dev.graphema.text.Times;
import dev.graphema.text.Utf8Buffer;
import dev.graphema.trace.TraceId;
import java.io.IOException;
import java.util.List;

/** Explains how an event is processed. */
public final class ExplainVerb extends Verb {
    private final Argument<String> logger =
            own().optionalWord("LOGGER", null, text -> text, "The logger of the event.");
    private final Argument<Level> level = own().optionalWord(
                    "LEVEL", Level.INFO, text -> Group.constant(Level.class, text), "Its level. Default: info.");
    private final Argument<List<String>> fields =
            own().words("NAME=VALUE", "Its fields, including those of the context.");
    private final Argument<String> message = own().text("--message", "TEXT", "Its message.");
    private final Argument<String> trace = own().text("--trace", "ID", "Its trace id.");
    private final SettingsFileOption settingsFile = new SettingsFileOption(own());

    public ExplainVerb() {
        super("explain", "Explains how an event is processed.");
    }

    @Override
    protected String details() {
        return "Shows which threshold of a settings file applies and where it is set, the sampling rule, which routes"
                + " match the event and why others do not, and which sinks receive it. Without a logger, reports settings"
                + " without effect. Exit code 1 if no sink receives the event, or a setting has no effect. Graphema.explain"
                + " and JMX do the same in a running program, including thresholds set at run time.";
    }

    @Override
    protected String examples() {
        return """
                graphema explain skerry.deck.Lanes debug lane=A3 --settings deck.yaml
                graphema explain --settings deck.yaml
                """;
    }

    @Override
    public int call() throws IOException, MisuseException {
        Settings settings = settingsFile.read();
        if (!logger.isGiven()) {
            return review(settings);
        }
        Explanation explanation = new Explainer(settings).explain(draft());
        console().print("by " + settingsFile.name());
        for (String line : explanation.toString().split("\n")) {
            // The file is named above: within its lines, the place in it is enough.
            print(line.replace(settingsFile.name() + ":", "line "));
        }
        return explanation.sinks().isEmpty() ? NOTHING : 0;
    }

    private Draft draft() throws MisuseException {
        Draft draft = new Draft()
                .time(Times.now())
                .logger(logger.value())
                .level(level.value())
                .message(message.isGiven() ? message.value() : "")
                .thread(Thread.currentThread().getName());
        for (String field : fields.value()) {
            try {
                draft.fields(FieldsText.pair(field));
            } catch (IllegalArgumentException e) {
                throw new MisuseException(e.getMessage());
            }
        }
        if (trace.isGiven()) {
            TraceId id = TraceId.parse(trace.value());
            if (id == null) {
                throw new MisuseException(
                        "--trace " + trace.value() + " is not a valid trace id: expected 32 hexadecimal digits");
            }
            draft.trace(id, null, null);
        }
        return draft;
    }

    /** Highlights a rejection; its word alone would be sufficient. */
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
                                ? settingsFile.name()
                                        + ": every route and rule can match, and every sink can receive events"
                                : Counted.of(findings.size(), "finding"));
        return findings.isEmpty() ? 0 : NOTHING;
    }
}
