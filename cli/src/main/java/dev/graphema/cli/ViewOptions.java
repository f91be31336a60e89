package dev.graphema.cli;

import dev.graphema.cli.arguments.Argument;
import dev.graphema.cli.arguments.Group;
import java.util.List;

/** The options that say how events are shown. */
final class ViewOptions {
    private final Argument<List<String>> columns;
    private final Argument<Table.Form> form;

    ViewOptions(Group options) {
        columns = options.option(
                "--columns",
                "NAMES",
                null,
                text -> List.of(text.split(",")),
                "What is shown of an event, with commas between: time, ago, level, source, service, instance, logger, message,"
                        + " thread, trace, span, sequence, or a field's name.");
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

    /** Whether lines are for people to read, one after the other, and may have others between them. */
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
