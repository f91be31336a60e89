package dev.graphema.cli;

import dev.graphema.condition.Condition;
import dev.graphema.event.Attribute;
import dev.graphema.event.Event;
import dev.graphema.event.Level;
import dev.graphema.event.Nearest;
import dev.graphema.format.ClockText;
import dev.graphema.query.Logs;
import dev.graphema.query.Reading;
import dev.graphema.query.Survey;
import java.io.IOException;
import java.util.List;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** Shows the events for which a condition holds. */
@Command(
        name = "find",
        mixinStandardHelpOptions = true,
        synopsisHeading = "Usage: ",
        description = "Shows the events for which a condition holds, oldest first; without one, all events.",
        footer = {
            "",
            "Examples:",
            "  graphema find 'level >= warn and service = deck' --in logs --last 15m",
            "  graphema find '\"lane not free\" and lock_wait_ms > 200' --in logs --as json"
        })
public final class FindVerb extends Verb {
    private static final int USUAL_LIMIT = 100;

    @Parameters(
            arity = "0..1",
            paramLabel = "CONDITION",
            description = "Which events, for example: level >= warn and service = deck")
    private String condition = "";

    @Mixin
    private InputOptions input = new InputOptions();

    @Option(
            names = "--limit",
            paramLabel = "N",
            description = "Show the newest N events; 0 shows all. Default: " + USUAL_LIMIT + " as text, all as json.")
    private Integer limit;

    @Option(
            names = "--as",
            paramLabel = "FORM",
            description = "text or json (one event a line, for the next tool). Default: text.")
    private EventPrinter.Form form = EventPrinter.Form.text;

    @Override
    public Integer call() throws IOException, MisuseException {
        if (limit != null && limit < 0) {
            throw new MisuseException("--limit " + limit + ": expected a number from 0 up, where 0 shows all");
        }
        Condition wanted = Condition.parse(condition, console().zone());
        Logs logs = input.logs(console(), wanted);
        int most = limit != null ? limit : form == EventPrinter.Form.text ? USUAL_LIMIT : 0;
        Outcome outcome = most == 0 ? all(logs) : newest(logs, most);
        input.complain(outcome.reading, console());
        if (outcome.matching == 0) {
            nothing(logs, wanted, outcome.reading);
            return Main.NOTHING;
        }
        if (form == EventPrinter.Form.text || outcome.shown < outcome.matching) {
            summary(outcome);
        }
        return 0;
    }

    private Outcome newest(Logs logs, int most) throws IOException {
        Logs.Newest newest = logs.newest(most);
        EventPrinter printer = new EventPrinter(console(), form);
        newest.events().forEach(printer::print);
        printer.flush();
        Event failed = newest.events().stream()
                .filter(FindVerb::tellsOfFailure)
                .findFirst()
                .orElse(null);
        return new Outcome(newest.events().size(), newest.matching(), newest.reading(), failed);
    }

    private Outcome all(Logs logs) throws IOException {
        EventPrinter printer = new EventPrinter(console(), form);
        long[] count = {0};
        Event[] failed = {null};
        Reading reading = logs.read(event -> {
            printer.print(event);
            count[0]++;
            if (failed[0] == null && tellsOfFailure(event)) {
                failed[0] = event;
            }
            return true;
        });
        printer.flush();
        return new Outcome(count[0], count[0], reading, failed[0]);
    }

    private static boolean tellsOfFailure(Event event) {
        return event.trace() != null && event.level() != null && event.level().passes(Level.WARN);
    }

    private void summary(Outcome outcome) {
        String read =
                String.format("%,d read in %s", outcome.reading.events(), Counted.of(outcome.reading.files(), "file"));
        console()
                .say(
                        outcome.shown < outcome.matching
                                ? String.format(
                                        "the newest %,d of %,d matching events, %s; --limit 0 shows all",
                                        outcome.shown, outcome.matching, read)
                                : Counted.of(outcome.matching, "matching event") + ", " + read);
        if (outcome.failed != null && form == EventPrinter.Form.text) {
            console()
                    .say("to follow a request: " + console().command() + " trail " + outcome.failed.trace()
                            + input.again());
        }
    }

    /** Says why there may be nothing: a name that no event has, or a window beside the events. */
    private void nothing(Logs logs, Condition wanted, Reading reading) throws IOException {
        if (reading.events() == 0) {
            console().say("no events in " + Counted.of(reading.files(), "file"));
            return;
        }
        console()
                .say(String.format(
                        "no event matches; %,d read in %s", reading.events(), Counted.of(reading.files(), "file")));
        if (input.readsStandardInput()) {
            return; // it is used up
        }
        Survey survey = Survey.of(logs);
        ClockText clock = ClockText.dateAndTime(console().zone());
        console().say("  the events are from " + clock.text(survey.first()) + " to " + clock.text(survey.last()));
        for (String field : survey.unknownFields(wanted)) {
            List<String> known = Stream.concat(
                            survey.fields().stream(),
                            Stream.of(Attribute.values()).map(Attribute::text))
                    .toList();
            console().say("  no event has a field called " + field + Nearest.hint(field, known));
        }
        if (!survey.unknownFields(wanted).isEmpty() && !survey.fields().isEmpty()) {
            console()
                    .say("  fields there are: "
                            + survey.fields().stream().limit(30).collect(Collectors.joining(", "))
                            + (survey.fields().size() > 30 ? ", …" : ""));
        }
    }

    private record Outcome(long shown, long matching, Reading reading, Event failed) {}
}
