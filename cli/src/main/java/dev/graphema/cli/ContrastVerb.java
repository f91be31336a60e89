package dev.graphema.cli;

import dev.graphema.event.Level;
import dev.graphema.format.Escapes;
import dev.graphema.format.Utf8Buffer;
import dev.graphema.query.Contrast;
import dev.graphema.query.Logs;
import dev.graphema.query.TimeWords;
import dev.graphema.query.Window;
import java.io.IOException;
import java.time.Instant;
import java.util.List;
import java.util.Locale;
import java.util.stream.Collectors;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** Shows what is different between two windows or two conditions. */
@Command(
        name = "contrast",
        mixinStandardHelpOptions = true,
        synopsisHeading = "Usage: ",
        description =
                "Compares events with others: which messages, failures and values of fields are new, gone, or much more or less"
                        + " frequent, the most surprising first. The others are those before a moment (--since), in another window"
                        + " (--against), or those that meet another condition (--than).",
        footer = {
            "",
            "Examples:",
            "  graphema contrast --since 2026-05-15T06:55 --in logs",
            "  graphema contrast --during 07:10/PT40M --against 06:00/PT55M --in logs",
            "  graphema contrast 'instance = deck-2' --than 'instance = deck-1' --in logs"
        })
public final class ContrastVerb extends FindingVerb {
    private static final int MOST_ALSO = 3;

    @Parameters(
            arity = "0..1",
            paramLabel = "CONDITION",
            description = "Which events, of both sides unless --than says otherwise")
    private String condition = "";

    @Option(
            names = "--since",
            paramLabel = "TIME",
            description = "Compare what is from that moment on with what is before.")
    private String since;

    @Option(names = "--against", paramLabel = "INTERVAL", description = "Compare with the events of another window.")
    private String against;

    @Option(
            names = "--than",
            paramLabel = "CONDITION",
            description = "Compare with the events that meet another condition.")
    private String than;

    @Option(names = "--limit", paramLabel = "N", description = "Show the N most surprising; 0 shows all. Default: 20.")
    private int limit = 20;

    @Option(names = "--as", paramLabel = "FORM", description = "text, table, json or csv. Default: text.")
    private Table.Form form = Table.Form.text;

    @Override
    public Integer call() throws IOException, MisuseException {
        if ((since == null ? 0 : 1) + (against == null ? 0 : 1) + (than == null ? 0 : 1) != 1) {
            throw new MisuseException(
                    "it is not said what to compare with: expected one of --since TIME, --against INTERVAL, --than CONDITION");
        }
        if (input().readsStandardInput()) {
            throw new MisuseException("--in - can be read once only, and contrast reads twice: expected files");
        }
        int most = limit(limit);
        Logs these = logs(condition(condition));
        Logs others = others(these);
        if (since != null) {
            Window all = input().window(out());
            long moment = InputOptions.moment("--since", since, words());
            these = these.during(new Window(Math.max(all.from(), moment), all.to()));
        }
        Contrast contrast = Contrast.of(others, these);
        if (contrast.one() == 0 || contrast.other() == 0) {
            out().say(
                            contrast.one() == 0
                                    ? "there is no event to compare with: choose another window or condition"
                                    : "no event matches, so there is nothing to compare: choose another window or condition");
            return Main.NOTHING;
        }
        show(contrast, most);
        return contrast.differences().isEmpty() ? Main.NOTHING : 0;
    }

    private Logs others(Logs these) throws MisuseException {
        if (than != null) {
            return these.where(condition(than));
        }
        if (against != null) {
            return these.during(InputOptions.interval("--against", against, words()));
        }
        long from = input().window(out()).from();
        return these.during(new Window(from, InputOptions.moment("--since", since, words()) - 1));
    }

    private TimeWords words() {
        return new TimeWords(out().zone(), Instant.now());
    }

    private void show(Contrast contrast, int most) {
        List<Contrast.Difference> shown =
                contrast.differences().stream().limit(most).toList();
        if (form != Table.Form.text) {
            Table table = new Table(List.of(
                    "difference", "what", "others", "these", "others_share", "these_share", "surprise", "also"));
            shown.forEach(each -> table.row(List.of(
                    each.kind().name().toLowerCase(Locale.ROOT),
                    each.condition(),
                    each.one(),
                    each.other(),
                    rounded((double) each.one() / contrast.one()),
                    rounded((double) each.other() / contrast.other()),
                    rounded(each.surprise()),
                    String.join("; ", each.also()))));
            table.print(form, out());
            return;
        }
        text(contrast, shown);
        out().say("of " + Counted.of(contrast.other(), "event") + ", against " + Counted.of(contrast.one(), "other")
                + "; "
                + (contrast.differences().isEmpty()
                        ? "nothing differs more than chance explains"
                        : shown.size() < contrast.differences().size()
                                ? "the " + shown.size() + " most surprising of "
                                        + Counted.of(contrast.differences().size(), "difference")
                                : Counted.of(shown.size(), "difference")));
        if (!contrast.tooManyValues().isEmpty()) {
            out().say("left out, since they have too many values: "
                    + String.join(
                            ", ", contrast.tooManyValues().stream().sorted().toList()));
        }
        shown.stream()
                .filter(each -> each.kind() == Contrast.Kind.NEW || each.kind() == Contrast.Kind.MORE)
                .findFirst()
                .ifPresent(each -> next(
                        "to see the first of what is new or more frequent",
                        "find " + Shell.quoted(joined(condition(condition), each.condition()))));
    }

    private static double rounded(double value) {
        return Math.round(value * 1e6) / 1e6;
    }

    private void text(Contrast contrast, List<Contrast.Difference> shown) {
        int width = shown.stream()
                .mapToInt(each -> Escapes.visible(each.condition()).length())
                .max()
                .orElse(4);
        int what = Math.min(60, Math.max(4, width));
        Utf8Buffer to = new Utf8Buffer(4096);
        to.text(String.format("%-5s  %-" + what + "s  %9s  %9s  %s%n", "", "what", "others", "these", "share of all"));
        for (Contrast.Difference each : shown) {
            String kind = String.format("%-5s", each.kind().name().toLowerCase(Locale.ROOT));
            if (each.kind() == Contrast.Kind.NEW || each.kind() == Contrast.Kind.MORE) {
                out().paint().of(Level.WARN, to, kind);
            } else {
                to.text(kind);
            }
            String condition = Escapes.visible(each.condition());
            condition = condition.length() > what ? condition.substring(0, what - 1) + "…" : condition;
            to.text(String.format(
                    "  %-" + what + "s  %9s  %9s  %s%n",
                    condition,
                    Counted.number(each.one()),
                    Counted.number(each.other()),
                    share(each.one(), contrast.one()) + " → " + share(each.other(), contrast.other())));
            also(each, to);
        }
        out().print(to);
    }

    /** What is probably about the same events, in a line of its own. */
    private void also(Contrast.Difference difference, Utf8Buffer to) {
        if (difference.also().isEmpty()) {
            return;
        }
        String first = difference.also().stream()
                .limit(MOST_ALSO)
                .map(Escapes::visible)
                .collect(Collectors.joining(", "));
        int more = difference.also().size() - MOST_ALSO;
        to.ascii("         ");
        out().paint().faint(to, "and " + first + (more > 0 ? ", and " + more + " more" : ""));
        to.ascii('\n');
    }

    private static String share(long part, long all) {
        double percent = 100.0 * part / all;
        return String.format(percent >= 10 || percent == 0 ? "%.0f%%" : percent >= 0.1 ? "%.1f%%" : "%.2g%%", percent);
    }
}
