package dev.graphema.cli.verb;

import dev.graphema.cli.arguments.Argument;
import dev.graphema.cli.arguments.MisuseException;
import dev.graphema.cli.input.InputOptions;
import dev.graphema.cli.output.Counted;
import dev.graphema.cli.output.Table;
import dev.graphema.lines.LogShape;
import dev.graphema.lines.shape.LineForm;
import dev.graphema.lines.shape.LineShape;
import dev.graphema.lines.shape.NameUse;
import dev.graphema.lines.shape.ShapeFile;
import java.io.IOException;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.stream.Collectors;

/** Shows how the lines of logs are read, and stores it for corrections. */
public final class ShapeVerb extends Verb {
    private static final List<String> COLUMNS = List.of("read as", "name", "lines", "first value", "because of");

    private final Argument<Boolean> save = own().flag(
                    "--save",
                    "Store it in the file " + ShapeFile.NAME + " beside the logs, which later commands use; correct it"
                            + " there.");
    private final Argument<Table.Form> form =
            own().choice("--as", "FORM", Table.Form.text, "text, table, json or csv. Default: text.");
    private final InputOptions input =
            new InputOptions(group("Logs:"), group("Time window:"), group("How lines are read:"));

    public ShapeVerb() {
        super("shape", "Shows how the lines of logs are read.");
    }

    @Override
    protected String details() {
        return "It is inferred from the names and values in the first 1,000 lines of each log.";
    }

    @Override
    protected String examples() {
        return """
                graphema shape --in /var/log/gate
                graphema shape --in app.log --map time=when,field=event
                graphema shape --in app.log --save
                """;
    }

    @Override
    public int call() throws IOException, MisuseException {
        Map<List<Object>, List<LogShape>> alike = input.files().shapes().stream()
                .collect(Collectors.groupingBy(ShapeVerb::shown, LinkedHashMap::new, Collectors.toList()));
        if (save.value()) {
            return store(alike.values().stream().flatMap(List::stream).toList());
        }
        for (List<LogShape> shapes : alike.values()) {
            show(shapes);
        }
        return 0;
    }

    /** What distinguishes the shapes of two logs, beside numbers and examples. */
    private static List<Object> shown(LogShape shape) {
        return List.of(
                shape.lines().keySet(),
                shape.names().stream()
                        .map(each -> each.name() + "=" + each.attribute())
                        .sorted()
                        .toList());
    }

    private void show(List<LogShape> shapes) {
        LogShape first = shapes.get(0);
        if (form.value() == Table.Form.text) {
            console().print(title(shapes));
        }
        Table table = new Table(COLUMNS);
        first.names().forEach(each -> table.row(row(each)));
        if (!first.names().isEmpty()) {
            table.print(form.value(), console());
        }
        if (form.value() == Table.Form.text) {
            notes(first.shape()).forEach(note -> console().print("note: " + note));
            console().print("");
        }
    }

    private static String title(List<LogShape> shapes) {
        LogShape first = shapes.get(0);
        String others = shapes.size() == 1 ? "" : " and " + Counted.of(shapes.size() - 1L, "file") + " like it";
        if (first.lines().containsKey(LineForm.OWN)) {
            return first.file() + others + ": " + LineForm.OWN.text();
        }
        String lines = first.lines().entrySet().stream()
                .map(each -> Counted.of(each.getValue(), "line") + " of "
                        + each.getKey().text())
                .collect(Collectors.joining(", "));
        return first.file() + others + ": " + (lines.isEmpty() ? "empty" : lines);
    }

    private static List<Object> row(NameUse use) {
        List<Object> row = new ArrayList<>();
        row.add(use.attribute() == null ? "field" : use.attribute().text());
        row.add(use.name());
        row.add(use.lines());
        row.add(use.example());
        row.add(use.reason() == null ? "" : "its " + use.reason().name().toLowerCase(Locale.ROOT));
        return row;
    }

    private static List<String> notes(LineShape shape) {
        List<String> notes = new ArrayList<>();
        if (shape.inferred().order() != null) {
            notes.add("dates such as 11/12/2026 are "
                    + shape.inferred().order().name().toLowerCase(Locale.ROOT).replace('_', ' ')
                    + ", as a number above 12 shows");
        }
        if (shape.inferred().isTimed()) {
            notes.add("lines that do not begin with a time continue the line before");
        }
        return notes;
    }

    private int store(List<LogShape> shapes) throws IOException, MisuseException {
        Map<Path, List<LogShape>> byFolder = shapes.stream()
                .filter(each -> each.hasNames() && !each.lines().containsKey(LineForm.OWN)
                        || !each.shape().mapping().isEmpty()
                        || each.shape().times().order() != null)
                .collect(Collectors.groupingBy(
                        each -> each.file().toAbsolutePath().getParent(), LinkedHashMap::new, Collectors.toList()));
        for (Map.Entry<Path, List<LogShape>> each : byFolder.entrySet()) {
            StringBuilder text = new StringBuilder("# How the lines of these logs are read; inferred by graphema shape."
                    + " Correct it where it is wrong.\n");
            each.getValue()
                    .forEach(shape -> text.append(
                            ShapeFile.lines(shape.file().getFileName() + "*", shape.shape(), shape.names())));
            Path file = each.getKey().resolve(ShapeFile.NAME);
            try {
                Files.writeString(file, text, StandardOpenOption.CREATE_NEW, StandardOpenOption.WRITE);
            } catch (FileAlreadyExistsException e) {
                throw new MisuseException(file + " exists and may have been corrected: edit or remove it");
            }
            console().note("stored in " + file);
        }
        if (byFolder.isEmpty()) {
            console().note("nothing to store: no log has names or dates that could mean something else");
        }
        return 0;
    }
}
