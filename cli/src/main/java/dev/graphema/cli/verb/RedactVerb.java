package dev.graphema.cli.verb;

import dev.graphema.cli.arguments.Argument;
import dev.graphema.cli.arguments.MisuseException;
import dev.graphema.cli.output.Counted;
import dev.graphema.lines.LeakCheck;
import dev.graphema.lines.LineFiles;
import dev.graphema.redaction.Corpus;
import dev.graphema.redaction.NearMisses;
import dev.graphema.redaction.Redactor;
import dev.graphema.text.Escapes;
import dev.graphema.text.Utf8Buffer;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;

/** Tries redaction rules, and checks written logs for leaks. */
public final class RedactVerb extends Verb {
    private final Argument<List<String>> texts =
            own().words("TEXT", "The texts to try. Default: each line of standard input.");
    private final Argument<Boolean> check = own().flag("--check", "Search logs for leaks.");
    private final Argument<List<String>> in = own().texts(
                    "--in",
                    "FILE|DIR",
                    "With --check: files, or folders with all .jsonl and .jsonl.gz files below. May be given several times.");
    private final Argument<Path> corpus = own().path(
                    "--corpus",
                    "FILE",
                    "Measure the built-in detectors on labelled texts: lines of a detector, the secret and the text, separated by"
                            + " tabs; none for a text without a secret.");
    private final SettingsFileOption settings = new SettingsFileOption(own());

    public RedactVerb() {
        super("redact", "Tries redaction rules, and checks written logs for leaks.");
    }

    @Override
    protected String details() {
        return "Tries the redaction of a settings file on texts: shows each before and after, the findings of each rule,"
                + " and near misses. With --check, searches written logs for unredacted secrets, and reports their number,"
                + " kind, field and position, but never their values. Exit code 1 if logs contain secrets, 2 if a file could"
                + " not be read.";
    }

    @Override
    protected String examples() {
        return """
                graphema redact 'card 4111 1111 1111 1111, ssn 078051120' --settings graphema.yaml
                graphema redact --check --in logs --settings graphema.yaml

                Recall and precision of the built-in detectors:
                graphema redact --corpus examples/redaction/corpus.tsv
                """;
    }

    @Override
    public int call() throws IOException, MisuseException {
        if (corpus.isGiven()) {
            Corpus.Measured measured = Corpus.read(corpus.value()).measure();
            measured.lines().forEach(console()::print);
            return 0;
        }
        Redactor redactor = settings.read().redaction().redactor();
        if (check.value()) {
            return check(redactor);
        }
        if (in.isGiven()) {
            throw new MisuseException("--in is for logs that are checked: add --check, or name a text to try");
        }
        console().print("by " + settings.name());
        if (!texts.isGiven()) {
            BufferedReader lines =
                    new BufferedReader(new InputStreamReader(console().input(), StandardCharsets.UTF_8));
            for (String line = lines.readLine(); line != null; line = lines.readLine()) {
                show(line, redactor);
            }
        } else {
            texts.value().forEach(text -> show(text, redactor));
        }
        return 0;
    }

    private void show(String text, Redactor redactor) {
        List<Redactor.Hit> hits = new ArrayList<>();
        String after = redactor.redact(text, hits::add);
        console().print("");
        console().print("before  " + Escapes.visible(text));
        console().print("after   " + Escapes.visible(after));
        for (Redactor.Hit hit : hits) {
            console()
                    .print("  hit   " + column(hit.rule()) + Escapes.visible(hit.secret()) + "  ->  "
                            + Escapes.visible(hit.instead()));
        }
        for (NearMisses.NearMiss near : NearMisses.of(after)) {
            Utf8Buffer line = new Utf8Buffer(128);
            console().paint().strong(line, "  near  " + column(near.detector()) + near.text() + "  " + near.why());
            console().print(line.ascii('\n'));
        }
        if (hits.isEmpty()) {
            console().print("  nothing is redacted");
        }
    }

    private static String column(String text) {
        return text + " ".repeat(Math.max(1, 14 - text.length()));
    }

    private int check(Redactor redactor) throws IOException, MisuseException {
        if (texts.isGiven()) {
            throw new MisuseException("--check searches logs: expected --in FILE or DIR, and no text");
        }
        LineFiles logs = LineFiles.at((in.isGiven() ? in.value() : List.of("."))
                .stream().map(Path::of).toList());
        LeakCheck.Result result = LeakCheck.of(logs.files(), redactor);
        for (LeakCheck.Leak leak : result.leaks()) {
            console()
                    .print(column(leak.rule())
                            + column(leak.key())
                            + Counted.right(Counted.number(leak.count()), 8) + "  "
                            + String.join(" ", leak.places())
                            + (leak.count() > leak.places().size() ? " …" : ""));
        }
        console()
                .print((result.leaks().isEmpty()
                                ? "no leak"
                                : Counted.of(result.leaks().size(), "kind") + " of leak") + " in "
                        + Counted.of(result.lines(), "line") + " of "
                        + Counted.of(logs.files().size(), "file") + ", by "
                        + settings.name());
        result.failures().forEach(console()::note);
        if (!result.failures().isEmpty()) {
            return FAILURE;
        }
        return result.leaks().isEmpty() ? 0 : NOTHING;
    }
}
