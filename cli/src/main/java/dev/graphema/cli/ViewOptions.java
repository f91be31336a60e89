package dev.graphema.cli;

import java.util.List;
import picocli.CommandLine.Option;

/** The options that say how events are shown. */
final class ViewOptions {
    @Option(
            names = "--columns",
            paramLabel = "NAMES",
            split = ",",
            description =
                    "What is shown of an event, with commas between: time, ago, level, source, service, instance, logger,"
                            + " message, thread, trace, span, sequence, or a field's name.")
    private List<String> columns;

    @Option(
            names = "--as",
            paramLabel = "FORM",
            description = "text, table, json (one event a line, for the next tool) or csv. Default: text.")
    private Table.Form form = Table.Form.text;

    EventView view(Console console) {
        return switch (form) {
            case text -> EventView.text(console, columns);
            case json -> EventView.json(console);
            case table, csv -> EventView.rows(console, form, columns);
        };
    }

    /** Whether lines are for people to read, one after the other, and may have others between them. */
    boolean isText() {
        return form == Table.Form.text;
    }

    boolean isForPeople() {
        return form == Table.Form.text || form == Table.Form.table;
    }

    boolean hasColumns() {
        return columns != null;
    }
}
