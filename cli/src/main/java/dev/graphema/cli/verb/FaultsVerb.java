package dev.graphema.cli.verb;

import dev.graphema.cli.arguments.Argument;
import dev.graphema.cli.arguments.MisuseException;
import dev.graphema.cli.output.Counted;
import dev.graphema.cli.output.Shell;
import dev.graphema.cli.output.Table;
import dev.graphema.condition.Condition;
import dev.graphema.event.Event;
import dev.graphema.event.Failure;
import dev.graphema.event.Level;
import dev.graphema.format.ClockText;
import dev.graphema.query.Ask;
import dev.graphema.query.Question;
import dev.graphema.query.answer.FailureKinds;
import dev.graphema.query.part.TextShape;
import dev.graphema.text.Escapes;
import dev.graphema.text.Times;
import dev.graphema.text.Utf8Buffer;
import java.io.IOException;
import java.util.Arrays;
import java.util.List;

/** Shows failures by kind. */
public final class FaultsVerb extends FindingVerb {
    private static final int PARTS = 30;
    private static final String BARS = " ▁▂▃▄▅▆▇█";

    private final Argument<String> condition = own().condition("Which events, for example: service = deck.");
    private final Argument<Integer> limit =
            own().count("--limit", 10, "Show the N most frequent; 0 for all. Default: 10.");
    private final Argument<Table.Form> form = form();

    public FaultsVerb() {
        super("faults", "Shows failures by kind.");
    }

    @Override
    protected String details() {
        return "Shows the number of failures, the times of the first and the last, where they occurred, their course"
                + " over time, and an example. Failures with the same types at the same place in the code are one kind.";
    }

    @Override
    protected String examples() {
        return """
                graphema faults --in logs --last 1h
                graphema faults 'service = deck' --in logs --as csv
                """;
    }

    @Override
    public Question<FailureKinds> question() throws IOException, MisuseException {
        return selection(condition(condition.value())).ask(new Ask.Failures(PARTS));
    }

    @Override
    public int call() throws IOException, MisuseException {
        Condition wanted = condition(condition.value());
        int most = limit(limit.value());
        FailureKinds failures = answer(question());
        complain(failures.coverage());
        if (failures.kinds().isEmpty()) {
            out().note("no event has a failure; " + Counted.read(failures.coverage()));
            return NOTHING;
        }
        List<FailureKinds.Kind> shown = failures.kinds().stream().limit(most).toList();
        if (form.value() == Table.Form.json) {
            printJson(failures, most);
            return 0;
        }
        if (form.value() != Table.Form.text) {
            table(shown).print(form.value(), out());
            return 0;
        }
        Utf8Buffer to = new Utf8Buffer(4096);
        shown.forEach(fault -> show(fault, to));
        out().print(to);
        out().note((shown.size() < failures.kinds().size()
                        ? "the first " + shown.size() + " of "
                                + Counted.of(failures.kinds().size(), "kind")
                        : Counted.of(shown.size(), "kind"))
                + " of failure; " + Counted.read(failures.coverage()));
        FailureKinds.Kind first = shown.get(0);
        next(
                "to see all of the first",
                "find " + Shell.quoted(joined(wanted, "failure.fingerprint = " + first.fingerprint())));
        if (first.example().trace() != null) {
            next("to follow the newest of them", "trail " + first.example().trace());
        }
        return 0;
    }

    private static Table table(List<FailureKinds.Kind> faults) {
        Table table = new Table(List.of("count", "first", "last", "where", "type", "message", "at", "fingerprint"));
        for (FailureKinds.Kind fault : faults) {
            Event example = fault.example();
            table.row(Arrays.asList(
                    fault.count(),
                    Times.instant(fault.first()).toString(),
                    Times.instant(fault.last()).toString(),
                    where(fault),
                    example.failure().type(),
                    example.failure().message(),
                    example.failure().frames().isEmpty()
                            ? null
                            : example.failure().frames().get(0).toString(),
                    fault.fingerprint()));
        }
        return table;
    }

    private void show(FailureKinds.Kind fault, Utf8Buffer to) {
        ClockText clock = ClockText.dateAndTime(out().zone());
        Event example = fault.example();
        out().paint().of(Level.ERROR, to, Counted.right(Counted.number(fault.count()), 6));
        to.ascii("  ");
        title(example.failure(), to);
        String where = where(fault);
        to.ascii("\n        ")
                .text(spark(fault.course()))
                .text(where.isEmpty() ? "" : "  in " + Escapes.visible(where))
                .ascii('\n');
        to.text("        first " + clock.text(fault.first()) + ", last " + clock.text(fault.last()));
        if (!example.failure().frames().isEmpty()) {
            to.text(", at " + Escapes.visible(example.failure().frames().get(0).toString()));
        }
        to.ascii("\n        ");
        out().paint().faint(to, "failure.fingerprint = " + fault.fingerprint());
        to.ascii("\n\n");
    }

    /** Writes type and message; of a failure that is only a text, its shape, and the text as an example. */
    private void title(Failure failure, Utf8Buffer to) {
        String message = failure.message();
        out().paint().strong(to, Escapes.visible(failure.type()));
        boolean isText = message != null && failure.type().equals(TextShape.of(message));
        if (message != null && !isText) {
            to.ascii(": ").text(Escapes.visible(message));
        } else if (message != null && !message.equals(failure.type())) {
            to.ascii("\n        for example: ").text(Escapes.visible(message));
        }
    }

    private static String where(FailureKinds.Kind fault) {
        return String.join(", ", fault.where().stream().sorted().toList());
    }

    private static String spark(List<Long> course) {
        long most = course.stream().mapToLong(Long::longValue).max().orElse(1);
        StringBuilder spark = new StringBuilder("│");
        for (long count : course) {
            int height = count == 0 ? 0 : (int) Math.max(1, Math.round(count * 8.0 / most));
            spark.append(BARS.charAt(height));
        }
        return spark.append("│").toString();
    }
}
