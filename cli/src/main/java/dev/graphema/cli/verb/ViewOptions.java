package dev.graphema.cli.verb;

import dev.graphema.cli.arguments.Argument;
import dev.graphema.cli.arguments.Group;
import dev.graphema.cli.output.Console;
import dev.graphema.cli.output.EventView;
import dev.graphema.cli.output.Table;
import java.util.List;

/** The options for the form of events. */
final class ViewOptions {
    private final Argument<List<String>> columns;
    private final Argument<Table.Form> form;

    ViewOptions(Group options) {
        columns = options.option(
                "--columns",
                "NAMES",
                null,
                text -> List.of(text.split(",")),
                "The values to show, separated by commas: time, ago, level, source, service, instance, logger, message,"
                        + " thread, trace, span, sequence, or the name of a field.");
        form = options.choice(
                "--as",
                "FORM",
                Table.Form.text,
                "text, table, json (one event a line, for the next tool) or csv. Default: text.");
    }

    EventView view(Console console) {
        return switch (form.value()) {
            case text -> EventView.text(console, columns.value());
            case json -> EventView.json(console);
            case table, csv -> EventView.rows(console, form.value(), columns.value());
        };
    }

    /** Returns whether lines are for people, so that others may be between them. */
    boolean isText() {
        return form.value() == Table.Form.text;
    }

    boolean isForPeople() {
        return form.value() == Table.Form.text || form.value() == Table.Form.table;
    }

    boolean hasColumns() {
        return columns.isGiven();
    }
}
