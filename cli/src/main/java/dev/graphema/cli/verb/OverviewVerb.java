package dev.graphema.cli.verb;

import dev.graphema.cli.arguments.Argument;
import dev.graphema.cli.arguments.MisuseException;
import dev.graphema.cli.input.InputOptions;
import dev.graphema.cli.output.Counted;
import dev.graphema.cli.output.MapText;
import dev.graphema.cli.output.Table;
import dev.graphema.condition.Condition;
import dev.graphema.condition.Name;
import dev.graphema.event.Event;
import dev.graphema.query.Ask;
import dev.graphema.query.Question;
import dev.graphema.query.answer.FoundEvents;
import dev.graphema.query.answer.TimeMap;
import dev.graphema.text.Times;
import java.io.IOException;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Stream;

/** Shows all sources over time: how much they emit, their warnings and errors, and what was released. */
public final class OverviewVerb extends FindingVerb {
    private static final int USUAL_WIDTH = 120;
    private static final int MOST_MARKS = 20;
    private static final int SHOWN = 30;

    private final Argument<String> condition = own().condition("Which events, for example: level >= warn.");
    private final Argument<String> by = own().text(
                    "--by", "FIELDS", "The fields whose values make a source, with commas. Default: service,instance.");
    private final Argument<String> step =
            own().text("--step", "DURATION", "The length of a step: 1m, 1h. Default: as many steps as fit.");
    private final Argument<String> marks = own().text(
                    "--marks", "CONDITION", "Which events are marked above the map. Default: " + MapText.MARKS + ".");
    private final Argument<Table.Form> form = form();

    public OverviewVerb() {
        super("overview", "Shows all sources over time, with their warnings, errors and releases.");
    }

    @Override
    protected String details() {
        return "Each row is a source, each column a step of time. It is as wide as the terminal, from "
                + MapText.NARROWEST + " to " + MapText.WIDEST + " characters.";
    }

    @Override
    protected String examples() {
        return """
                graphema overview --in logs --last 2h
                graphema overview 'level >= warn' --by service --in logs
                graphema overview --by route --step 1m --in logs
                """;
    }

    @Override
    public Question<TimeMap> question() throws IOException, MisuseException {
        Duration given = step.isGiven() ? InputOptions.duration("--step", step.value()) : null;
        List<Name> names = Stream.of((by.isGiven() ? by.value() : "service,instance").split(","))
                .map(String::strip)
                .map(Name::of)
                .toList();
        int width = out().width() == 0 ? USUAL_WIDTH : out().width();
        return selection(condition(condition.value()))
                .ask(new Ask.TimeCells(MapText.steps(width), given, input().zone(), names, SHOWN));
    }

    @Override
    public int call() throws IOException, MisuseException {
        Condition wanted = condition(condition.value());
        TimeMap map = answer(question());
        boolean isDrawn = form.value() == Table.Form.text && !map.begins().isEmpty();
        List<Event> marked = isDrawn ? marked() : List.of();
        complain(map.coverage());
        if (map.begins().isEmpty()) {
            return nothing(wanted, map.coverage());
        }
        if (isDrawn) {
            MapText.print(map, marked, out());
            summary(map, wanted);
        } else if (form.value() == Table.Form.json) {
            printJson(map, Integer.MAX_VALUE);
        } else {
            table(map).print(form.value(), out());
        }
        return 0;
    }

    private List<Event> marked() throws IOException, MisuseException {
        if (input().readsStandardInput()) {
            return List.of();
        }
        FoundEvents found = answer(selection(condition(marks.isGiven() ? marks.value() : MapText.MARKS))
                .newest(MOST_MARKS));
        return found.events();
    }

    private static Table table(TimeMap map) {
        List<String> names = new ArrayList<>(List.of("from"));
        map.names().forEach(name -> names.add(name.toString()));
        names.addAll(List.of("count", "warnings", "errors"));
        Table table = new Table(names);
        for (TimeMap.Row row : map.rows()) {
            for (int i = 0; i < map.begins().size(); i++) {
                if (row.counts().get(i) > 0) {
                    List<Object> cells = new ArrayList<>();
                    cells.add(Times.instant(map.begins().get(i)).toString());
                    row.values().forEach(value -> cells.add(value == null ? "" : value));
                    cells.addAll(List.of(
                            row.counts().get(i),
                            row.warnings().get(i),
                            row.errors().get(i)));
                    table.row(cells);
                }
            }
        }
        return table;
    }

    private void summary(TimeMap map, Condition wanted) {
        out().note(Counted.of(sum(map.all().counts()), "event") + ", "
                + Counted.of(sum(map.all().warnings()), "warning") + ", "
                + Counted.of(sum(map.all().errors()), "error") + "; " + Counted.read(map.coverage())
                + (map.others() == 0 ? "" : "; " + Counted.of(map.others(), "more source") + " not shown"));
        if (sum(map.all().errors()) > 0) {
            next("to see what failed", "faults" + argument(wanted));
        }
    }

    private static long sum(List<Long> counts) {
        return counts.stream().mapToLong(Long::longValue).sum();
    }
}
