package dev.graphema.cli.verb;

import dev.graphema.cli.arguments.Argument;
import dev.graphema.cli.arguments.MisuseException;
import dev.graphema.cli.output.Counted;
import dev.graphema.cli.output.EventPrinter;
import dev.graphema.cli.output.EventView;
import dev.graphema.cli.output.Shell;
import dev.graphema.cli.output.TrailText;
import dev.graphema.condition.Condition;
import dev.graphema.condition.Name;
import dev.graphema.query.Ask;
import dev.graphema.query.Question;
import dev.graphema.query.answer.Trail;
import dev.graphema.query.answer.Trails;
import java.io.IOException;
import java.util.List;
import java.util.Locale;

/** Follows one request through all services. */
public final class TrailVerb extends FindingVerb {
    private static final int FEWEST_DIGITS = 4;

    private final Argument<String> trace = own().word(
                    "TRACE|FIELD=VALUE",
                    "A trace id, or its first digits, at least " + FEWEST_DIGITS
                            + "; or a field and its value, for all events about it.");
    private final ViewOptions shown = new ViewOptions(own());

    public TrailVerb() {
        super("trail", "Shows one request across all services.");
    }

    @Override
    protected String details() {
        return "Shows its operations, nested and with their durations, the first failure, and all events in the order of"
                + " time.";
    }

    @Override
    protected String examples() {
        return """
                graphema trail 4bf92f3577b34da6a3ce929d0e0e4736 --in logs
                graphema trail 4bf92f35 --in booking.jsonl --in deck-2.jsonl --as json

                Everything about one value, and the traces it is part of:
                graphema trail booking=B0047113 --in logs
                """;
    }

    @Override
    public Question<Trails> question() throws IOException, MisuseException {
        return selection(Condition.EVERYTHING).ask(ask());
    }

    private Ask.TrailOf ask() throws MisuseException {
        String asked = trace.value();
        int equals = asked.indexOf('=');
        if (equals > 0) {
            return new Ask.TrailOf(
                    Name.of(asked.substring(0, equals).strip()),
                    asked.substring(equals + 1).strip());
        }
        String id = asked.toLowerCase(Locale.ROOT);
        if (!id.matches("[0-9a-f]{" + FEWEST_DIGITS + ",32}")) {
            throw new MisuseException("\"" + asked + "\" is not a valid trace id: expected " + FEWEST_DIGITS
                    + " to 32 hexadecimal digits, as find --as json shows them under \"trace\", or a field and its value, as in"
                    + " booking=B0047113");
        }
        return Ask.TrailOf.trace(id);
    }

    @Override
    public int call() throws IOException, MisuseException {
        Ask.TrailOf ask = ask();
        Trails found = answer(question());
        if (!ask.isOfTrace()) {
            return show(found, ask.name() + " = " + ask.value());
        }
        String id = ask.value();
        if (found.trails().size() > 1) {
            List<String> ids = found.trails().stream().limit(5).map(Trail::name).toList();
            throw new MisuseException(found.trails().size() + " traces begin with " + id
                    + ": expected more digits, as in " + String.join(", ", ids));
        }
        return show(found, "trace " + id);
    }

    private int show(Trails found, String wanted) {
        complain(found.coverage());
        if (found.trails().isEmpty()) {
            out().note("no event of " + (wanted.startsWith("trace ") ? "a " : "") + wanted + "; "
                    + Counted.read(found.coverage()));
            return NOTHING;
        }
        Trail trail = found.trails().get(0);
        if (shown.isText()) {
            out().print(new TrailText(trail, out()).toBuffer());
        }
        EventView view = shown.view(out());
        trail.events().forEach(view::show);
        view.end();
        if (shown.isText()) {
            trail.firstFailure()
                    .ifPresent(event -> next(
                            "to see what else happened when it failed",
                            "around " + Shell.quoted(EventPrinter.conditionOf(event))));
        }
        return 0;
    }
}
