package dev.graphema.cli.verb;

import dev.graphema.cli.arguments.Argument;
import dev.graphema.cli.arguments.MisuseException;
import dev.graphema.cli.output.Console;
import dev.graphema.cli.output.Shell;
import dev.graphema.text.Nearest;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.function.ToIntBiFunction;

/** Stores questions by name. */
public final class KeepVerb extends Verb {
    private final ToIntBiFunction<Console, String[]> command;
    private static final int SHOWN = 10;

    private final Argument<String> name = own().optionalWord("NAME", null, text -> text, "The name of the question.");
    private final Argument<List<String>> rest =
            own().rest("VERB ARGUMENTS", "The question; or options to add to the stored one.");
    private final Argument<String> drop = own().text("--drop", "NAME", "Remove the question with this name.");

    /** @param command runs a command line, and returns its exit code */
    public KeepVerb(ToIntBiFunction<Console, String[]> command) {
        super("keep", "Stores questions by name, and runs them again.");
        this.command = command;
    }

    @Override
    protected String details() {
        return "With a search command after the name, stores the question. With the name only, runs it; with options"
                + " after the name, runs it with these in addition. Without a name, lists stored and recent questions.";
    }

    @Override
    protected String examples() {
        return """
                graphema keep lanes find 'service = deck and lock_wait_ms > 200ms' --in logs
                graphema keep lanes --last 15m
                graphema keep --drop lanes
                """;
    }

    private final KeptQuestions questions = KeptQuestions.ofUser();

    @Override
    public int call() throws IOException, MisuseException {
        if (drop.isGiven()) {
            if (!questions.drop(drop.value())) {
                throw unknown(drop.value());
            }
            return 0;
        }
        if (!name.isGiven()) {
            return list();
        }
        if (rest.isGiven() && !rest.value().get(0).startsWith("-")) {
            return keep();
        }
        KeptQuestions.Question question = questions.kept().get(name.value());
        if (question == null) {
            throw unknown(name.value());
        }
        List<String> arguments = new ArrayList<>(question.arguments());
        arguments.addAll(rest.value());
        console().note("asking: " + console().command() + " " + new KeptQuestions.Question(null, arguments).text());
        return command.applyAsInt(console(), arguments.toArray(new String[0]));
    }

    private int keep() throws IOException, MisuseException {
        if (!FINDING.contains(rest.value().get(0))) {
            throw new MisuseException("\"" + rest.value().get(0) + "\" is not a search command: expected one of "
                    + String.join(", ", FINDING) + ", as in keep " + name.value()
                    + " find 'level >= error' --in logs");
        }
        questions.keep(new KeptQuestions.Question(name.value(), rest.value()));
        console().note("stored; to run it: " + console().command() + " keep " + Shell.quoted(name.value()));
        return 0;
    }

    private int list() throws IOException {
        Map<String, KeptQuestions.Question> kept = questions.kept();
        kept.values()
                .forEach(question -> console()
                        .print(Shell.quoted(question.name()) + "  " + console().command() + " " + question.text()));
        List<KeptQuestions.Question> recent = questions.recent();
        if (!recent.isEmpty()) {
            console().note("asked last:");
            recent.stream()
                    .limit(SHOWN)
                    .forEach(question -> console().note("  " + console().command() + " " + question.text()));
        }
        if (kept.isEmpty()) {
            console()
                    .note("no question is stored; to store one: " + console().command()
                            + " keep NAME find 'level >= error' --in logs");
            return NOTHING;
        }
        return 0;
    }

    private MisuseException unknown(String wanted) throws IOException {
        Map<String, KeptQuestions.Question> kept = questions.kept();
        return new MisuseException("no question is stored as \"" + wanted + "\": expected "
                + (kept.isEmpty()
                        ? "a command after the name, as in keep " + Shell.quoted(wanted)
                                + " find 'level >= error' --in logs"
                        : "one of " + String.join(", ", kept.keySet()) + Nearest.hint(wanted, kept.keySet())));
    }
}
