package dev.graphema.examples;

import dev.graphema.cli.Main;
import dev.graphema.cli.output.Console;
import dev.graphema.cli.output.Shell;
import dev.graphema.event.Event;
import dev.graphema.lines.LineFiles;
import dev.graphema.query.Question;
import dev.graphema.query.source.QueryExecutor;
import dev.graphema.text.Utf8Buffer;
import dev.graphema.trace.TraceId;
import java.io.IOException;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;

/** The investigation: shows each command, runs it, and continues with its result. */
final class Walk {
    private static final String FAILED_REQUESTS = "message = request and service = booking and status >= 500";

    private final Console console;
    private final Path logs;

    Walk(Console console, Path logs) {
        this.console = console;
        this.logs = logs;
    }

    /** @return whether every command found something */
    boolean run() throws IOException {
        title("Which requests failed?");
        boolean found = command("find", FAILED_REQUESTS, "--in", logs.toString());
        TraceId failed = failedWithHeldDetail();
        if (failed == null) {
            return false;
        }
        title("What failed first, and where?");
        found &= command("tally", "failure.type,instance", "failure.type exists", "--in", logs.toString());
        title("What happened to the last request whose detail was held, in all services?");
        found &= command("trail", failed.toString(), "--in", logs.toString());
        title(
                "What was held in memory and came out because it failed? (Of requests that succeed, nothing of it is written.)");
        found &= command("find", "held = true and trace = " + failed, "--in", logs.toString());
        title("It waited for a lane. Who else waited that long, and where?");
        found &= command("find", "service = deck and lock_wait_ms > 200ms", "--limit", "12", "--in", logs.toString());
        title("Did deck-1, with the old release, ever make anybody wait that long?");
        command("find", "instance = deck-1 and lock_wait_ms > 200ms", "--in", logs.toString());
        title(
                "An operator raised detail for one booking. What did that bring, from which services, and of that booking alone?");
        found &= command("tally", "booking,service,logger,message", "level = trace", "--in", logs.toString());
        return found;
    }

    /** The newest one; detail is not held of a request for which an operator has raised it. */
    private TraceId failedWithHeldDetail() throws IOException {
        Set<TraceId> held = events("held = true").stream().map(Event::trace).collect(Collectors.toSet());
        List<Event> failed = events(FAILED_REQUESTS);
        for (int i = failed.size() - 1; i >= 0; i--) {
            if (held.contains(failed.get(i).trace())) {
                return failed.get(i).trace();
            }
        }
        return null;
    }

    private List<Event> events(String condition) throws IOException {
        return QueryExecutor.answer(Question.where(condition).newest(Integer.MAX_VALUE), LineFiles.at(List.of(logs)))
                .events();
    }

    private void title(String text) {
        Utf8Buffer buffer = new Utf8Buffer(128).ascii('\n');
        console.paint().strong(buffer, text);
        console.print(buffer.ascii('\n'));
    }

    private boolean command(String... arguments) {
        String line = Arrays.stream(arguments).map(Shell::quoted).collect(Collectors.joining(" "));
        console.print("$ " + console.command() + " " + line);
        return Main.run(console, arguments) == 0;
    }
}
