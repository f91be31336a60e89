package dev.graphema.cli.verb;

import dev.graphema.cli.arguments.Argument;
import dev.graphema.cli.arguments.MisuseException;
import dev.graphema.cli.output.Counted;
import dev.graphema.cli.output.Shell;
import dev.graphema.cli.output.Table;
import dev.graphema.condition.Condition;
import dev.graphema.condition.Name;
import dev.graphema.query.Ask;
import dev.graphema.query.Question;
import dev.graphema.query.answer.CountTable;
import dev.graphema.query.source.QueryExecutor;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** Compares two logs: which events, by the values of some fields, are in one and not in the other. */
public final class CompareVerb extends FindingVerb {
    private final Argument<String> fields =
            own().word("FIELDS", "The names by whose values events are compared, separated by commas.");
    private final Argument<String> condition = own().condition("Which events of both logs.");
    private final Argument<List<String>> with =
            own().texts("--with", "FILE|DIR", "The other log: files and folders. May be given several times.");
    private final Argument<Integer> limit =
            own().count("--limit", 50, "Show the first N differences; 0 for all. Default: 50.");
    private final Argument<Table.Form> form = form();

    /** How often a combination of values is in each log. */
    private record Difference(List<String> values, long here, long there) {
        boolean isInOne() {
            return here == 0 || there == 0;
        }
    }

    public CompareVerb() {
        super("compare", "Shows which events are in one log and not in another.");
    }

    @Override
    public boolean isAboutTimes() {
        return false;
    }

    @Override
    protected String details() {
        return "Events are the same if the values of the fields are. What is in one log only comes first, then what is more"
                + " often in one of them.";
    }

    @Override
    protected String examples() {
        return """
                graphema compare booking,status --in primary.log --with replica.log
                graphema compare message.shape 'level >= warn' --in today --with yesterday
                """;
    }

    @Override
    public Question<CountTable> question() throws IOException, MisuseException {
        List<Name> names = TallyVerb.names(fields.value());
        return selection(condition(condition.value())).ask(new Ask.Counts(names, null));
    }

    @Override
    public int call() throws IOException, MisuseException {
        if (with.value().isEmpty()) {
            throw new MisuseException("there is nothing to compare with: expected --with and a file or folder");
        }
        List<Path> others = with.value().stream().map(Path::of).toList();
        CountTable here = answer(question());
        CountTable there = QueryExecutor.answer(question(), input().logsAt(others), progress());
        complain(here.coverage());
        complain(there.coverage());
        List<Difference> differences = differences(here, there);
        int most = Math.min(limit(limit.value()), differences.size());
        List<String> columns =
                new ArrayList<>(here.names().stream().map(Name::toString).toList());
        columns.addAll(List.of("here", "there"));
        Table table = new Table(columns);
        for (Difference each : differences.subList(0, most)) {
            List<Object> row = new ArrayList<>(each.values());
            row.addAll(List.of(each.here(), each.there()));
            table.row(row);
        }
        if (!differences.isEmpty()) {
            table.print(form.value(), out());
        }
        if (form.value() == Table.Form.text) {
            summary(here, there, differences, most);
        }
        return differences.isEmpty() ? NOTHING : 0;
    }

    private static List<Difference> differences(CountTable here, CountTable there) {
        Map<List<String>, long[]> counts = new LinkedHashMap<>();
        here.rows()
                .forEach(row -> counts.computeIfAbsent(row.values(), none -> new long[2])[0] =
                        row.events().count());
        there.rows()
                .forEach(row -> counts.computeIfAbsent(row.values(), none -> new long[2])[1] =
                        row.events().count());
        List<Difference> differences = new ArrayList<>();
        counts.forEach((values, count) -> {
            if (count[0] != count[1]) {
                differences.add(new Difference(values, count[0], count[1]));
            }
        });
        differences.sort(Comparator.comparing(Difference::isInOne)
                .reversed()
                .thenComparing(each -> -Math.abs(each.here() - each.there()))
                .thenComparing(each -> each.values().toString()));
        return differences;
    }

    private void summary(CountTable here, CountTable there, List<Difference> differences, int shown) {
        long inOne = differences.stream().filter(Difference::isInOne).count();
        String what = differences.isEmpty()
                ? "no difference"
                : Counted.of(inOne, "combination") + " in one log only, " + Counted.number(differences.size() - inOne)
                        + " in different numbers";
        out().note((shown < differences.size() ? "the first " + shown + ": " : "") + what + "; "
                + Counted.of(here.all().kept(), "event") + " here and "
                + Counted.number(there.all().kept()) + " there");
        if (differences.isEmpty()) {
            return;
        }
        Difference first = differences.get(0);
        Condition wanted = condition(condition.value());
        String found = Shell.quoted(joined(wanted, TallyVerb.conditionOf(here.names(), first.values())));
        if (first.here() > 0) {
            next("to see the first", "find " + found);
        } else {
            StringBuilder command = new StringBuilder(out().command() + " find " + found);
            with.value().forEach(path -> command.append(" --in ").append(Shell.quoted(path)));
            out().note("to see the first: " + command);
        }
    }
}
