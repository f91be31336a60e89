package dev.graphema.cli;

import dev.graphema.cli.arguments.Argument;
import dev.graphema.cli.arguments.MisuseException;
import dev.graphema.event.Nearest;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;

/** Stores questions by name. */
public final class KeepVerb extends Verb {
    private static final int SHOWN = 10;

    private final Argument<String> name = own().optionalWord("NAME", null, text -> text, "The question's name.");
    private final Argument<List<String>> rest =
            own().rest("VERB ARGUMENTS", "The question; or options, with which the one that is kept is asked.");
    private final Argument<String> drop = own().text("--drop", "NAME", "Forget the question of that name.");

    public KeepVerb() {
        super("keep", "Keeps questions by name, and asks them again.");
    }

    @Override
    protected String details() {
        return "With a verb of finding behind the name, keeps the question. With the name alone, asks it again; with options behind the"
                + " name, asks it with these in addition. Without a name, lists what is kept and what was asked last.";
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
    protected int call() throws IOException, MisuseException {
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
        console().say("asking: " + console().command() + " " + new KeptQuestions.Question(null, arguments).text());
        return Main.run(console(), arguments.toArray(new String[0]));
    }

    private int keep() throws IOException, MisuseException {
        if (!Main.isFinding(rest.value().get(0))) {
            throw new MisuseException("\"" + rest.value().get(0) + "\" is no verb of finding: expected one of "
                    + String.join(", ", Main.FINDING) + ", as in keep " + name.value()
                    + " find 'level >= error' --in logs");
        }
        questions.keep(new KeptQuestions.Question(name.value(), rest.value()));
        console().say("kept; to ask it: " + console().command() + " keep " + Shell.quoted(name.value()));
        return 0;
    }

    private int list() throws IOException {
        Map<String, KeptQuestions.Question> kept = questions.kept();
        kept.values()
                .forEach(question -> console()
                        .print(Shell.quoted(question.name()) + "  " + console().command() + " " + question.text()));
        List<KeptQuestions.Question> recent = questions.recent();
        if (!recent.isEmpty()) {
            console().say("asked last:");
            recent.stream()
                    .limit(SHOWN)
                    .forEach(question -> console().say("  " + console().command() + " " + question.text()));
        }
        if (kept.isEmpty()) {
            console()
                    .say("nothing is kept; to keep a question: " + console().command()
                            + " keep NAME find 'level >= error' --in logs");
            return Main.NOTHING;
        }
        return 0;
    }

    private MisuseException unknown(String wanted) throws IOException {
        Map<String, KeptQuestions.Question> kept = questions.kept();
        return new MisuseException("no question is kept as \"" + wanted + "\": expected "
                + (kept.isEmpty()
                        ? "a verb behind the name, as in keep " + Shell.quoted(wanted)
                                + " find 'level >= error' --in logs"
                        : "one of " + String.join(", ", kept.keySet()) + Nearest.hint(wanted, kept.keySet())));
    }
}
