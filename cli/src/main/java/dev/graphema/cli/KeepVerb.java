package dev.graphema.cli;

import dev.graphema.event.Nearest;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Unmatched;

/** Keeps questions by name. */
@Command(
        name = "keep",
        mixinStandardHelpOptions = true,
        synopsisHeading = "Usage: ",
        description =
                "Keeps a question under a name: keep NAME VERB ARGUMENTS. With the name alone, asks it again; with options behind the"
                        + " name, asks it with these in addition. Without a name, lists what is kept and what was asked last.",
        footer = {
            "",
            "Examples:",
            "  graphema keep lanes find 'service = deck and lock_wait_ms > 200ms' --in logs",
            "  graphema keep lanes --last 15m",
            "  graphema keep --drop lanes"
        })
public final class KeepVerb extends Verb {
    private static final int SHOWN = 10;

    @Parameters(arity = "0..1", paramLabel = "NAME", description = "The question's name")
    private String name;

    @Option(names = "--drop", paramLabel = "NAME", description = "Forget the question of that name.")
    private String drop;

    @Unmatched
    private List<String> rest = new ArrayList<>();

    private final KeptQuestions questions = KeptQuestions.ofUser();

    @Override
    public Integer call() throws IOException, MisuseException {
        if (drop != null) {
            if (!questions.drop(drop)) {
                throw unknown(drop);
            }
            return 0;
        }
        if (name == null) {
            return list();
        }
        if (!rest.isEmpty() && !rest.get(0).startsWith("-")) {
            return keep();
        }
        KeptQuestions.Question question = questions.kept().get(name);
        if (question == null) {
            throw unknown(name);
        }
        List<String> arguments = new ArrayList<>(question.arguments());
        arguments.addAll(rest);
        console().say("asking: " + console().command() + " " + new KeptQuestions.Question(null, arguments).text());
        return Main.run(console(), arguments.toArray(new String[0]));
    }

    private int keep() throws IOException, MisuseException {
        if (!Main.isFinding(rest.get(0))) {
            throw new MisuseException("\"" + rest.get(0) + "\" is no verb of finding: expected one of "
                    + String.join(", ", Main.FINDING) + ", as in keep " + name + " find 'level >= error' --in logs");
        }
        questions.keep(new KeptQuestions.Question(name, rest));
        console().say("kept; to ask it: " + console().command() + " keep " + Shell.quoted(name));
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
