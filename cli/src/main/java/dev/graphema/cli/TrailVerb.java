package dev.graphema.cli;

import dev.graphema.query.Logs;
import dev.graphema.query.Reading;
import dev.graphema.query.Trail;
import java.io.IOException;
import java.util.List;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** Follows one request through all services. */
@Command(
        name = "trail",
        mixinStandardHelpOptions = true,
        synopsisHeading = "Usage: ",
        description = "Shows all of one request across services: its operations, nested and with their durations, what"
                + " failed first, and every event in the order of time.",
        footer = {
            "",
            "Examples:",
            "  graphema trail 4bf92f3577b34da6a3ce929d0e0e4736 --in logs",
            "  graphema trail 4bf92f35 --in booking.jsonl --in deck-2.jsonl --as json"
        })
public final class TrailVerb extends Verb {
    private static final int FEWEST_DIGITS = 4;

    @Parameters(
            paramLabel = "TRACE",
            description = "The trace id, or the first digits of it, at least " + FEWEST_DIGITS)
    private String trace;

    @Mixin
    private InputOptions input = new InputOptions();

    @Option(names = "--as", paramLabel = "FORM", description = "text or json (the events alone). Default: text.")
    private EventPrinter.Form form = EventPrinter.Form.text;

    @Override
    public Integer call() throws IOException, MisuseException {
        String id = trace.toLowerCase(java.util.Locale.ROOT);
        if (!id.matches("[0-9a-f]{" + FEWEST_DIGITS + ",32}")) {
            throw new MisuseException("\"" + trace + "\" is no trace id: expected " + FEWEST_DIGITS
                    + " to 32 hexadecimal digits, as find --as json shows them under \"trace\"");
        }
        Logs logs = input.logs(console());
        Trail.Found found = Trail.find(logs, id);
        Reading reading = found.reading();
        input.complain(reading, console());
        if (found.trails().isEmpty()) {
            console()
                    .say(String.format(
                            "no event of a trace %s; %,d read in %s",
                            id, reading.events(), Counted.of(reading.files(), "file")));
            return Main.NOTHING;
        }
        if (found.trails().size() > 1) {
            List<String> ids = found.trails().stream()
                    .limit(5)
                    .map(trail -> trail.trace().toString())
                    .toList();
            throw new MisuseException(found.trails().size() + " traces begin with " + id
                    + ": expected more digits, as in " + String.join(", ", ids));
        }
        show(found.trails().get(0));
        return 0;
    }

    private void show(Trail trail) {
        if (form == EventPrinter.Form.text) {
            console().print(new TrailText(trail, console()).toBuffer());
        }
        EventPrinter printer = new EventPrinter(console(), form);
        trail.events().forEach(printer::print);
        printer.flush();
    }
}
