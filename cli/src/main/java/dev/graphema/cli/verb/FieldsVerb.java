package dev.graphema.cli.verb;

import dev.graphema.cli.arguments.Argument;
import dev.graphema.cli.arguments.MisuseException;
import dev.graphema.cli.output.Counted;
import dev.graphema.cli.output.Shell;
import dev.graphema.cli.output.Table;
import dev.graphema.condition.Condition;
import dev.graphema.condition.Literal;
import dev.graphema.condition.Name;
import dev.graphema.query.Ask;
import dev.graphema.query.Question;
import dev.graphema.query.answer.FieldValues;
import java.io.IOException;
import java.util.List;
import java.util.stream.Collectors;

/** Shows which fields events have, and which values. */
public final class FieldsVerb extends FindingVerb {
    private static final int LONGEST_SHOWN = 40;

    private final Argument<String> condition = own().condition("Which events, for example: level >= error.");
    private final Argument<String> value =
            own().text("--value", "TEXT", "Only values that contain this text: which fields hold it.");
    private final Argument<Integer> shown = own().count(
                    "--show", Ask.Values.USUAL_SHOWN, "How many values to show, the most frequent ones. Default: 5.");
    private final Argument<Table.Form> form = form();

    public FieldsVerb() {
        super("fields", "Shows which fields events have, and which values.");
    }

    @Override
    public boolean isAboutTimes() {
        return false;
    }

    @Override
    protected String details() {
        return "Names with the most events come first. Each item of a list is a value.";
    }

    @Override
    protected String examples() {
        return """
                graphema fields 'level >= error' --in logs
                graphema fields --value SK-204 --in logs
                """;
    }

    @Override
    public Question<FieldValues> question() throws IOException, MisuseException {
        return selection(condition(condition.value())).ask(new Ask.Values(value.value(), shown.value()));
    }

    @Override
    public int call() throws IOException, MisuseException {
        Condition wanted = condition(condition.value());
        FieldValues answer = answer(question());
        complain(answer.coverage());
        if (answer.names().isEmpty()) {
            if (!value.isGiven()) {
                return nothing(wanted, answer.coverage());
            }
            out().note("no value contains " + value.value() + "; " + Counted.read(answer.coverage()));
            return NOTHING;
        }
        if (form.value() == Table.Form.json) {
            printJson(answer, answer.names().size());
            return 0;
        }
        Table table = new Table(List.of("name", "events", "different", "values"));
        for (FieldValues.OfName name : answer.names()) {
            table.row(List.of(name.name(), name.events(), name.distinct(), values(name)));
        }
        table.print(form.value(), out());
        if (form.value() == Table.Form.text) {
            FieldValues.OfName first = answer.names().get(0);
            out().note(Counted.of(answer.names().size(), "name") + "; " + Counted.read(answer.coverage()));
            if (!first.values().isEmpty()) {
                String is = Name.of(first.name()) + " = "
                        + Literal.written(first.values().get(0).text());
                next("to see the first", "find " + Shell.quoted(joined(wanted, is)));
            }
        }
        return 0;
    }

    private String values(FieldValues.OfName name) {
        return name.values().stream()
                .map(each -> shortened(each.text()) + " (" + Counted.number(each.count()) + ")")
                .collect(Collectors.joining(", "));
    }

    private String shortened(String text) {
        boolean isForPeople = form.value() == Table.Form.text || form.value() == Table.Form.table;
        return isForPeople && text.length() > LONGEST_SHOWN ? text.substring(0, LONGEST_SHOWN) + "…" : text;
    }
}
