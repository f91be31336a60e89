package dev.graphema.cli.verb;

import dev.graphema.cli.arguments.Argument;
import dev.graphema.cli.arguments.MisuseException;
import dev.graphema.cli.input.InputOptions;
import dev.graphema.cli.output.Counted;
import dev.graphema.cli.output.Shell;
import dev.graphema.cli.output.Table;
import dev.graphema.condition.Name;
import dev.graphema.event.Level;
import dev.graphema.query.Ask;
import dev.graphema.query.EventSelection;
import dev.graphema.query.Question;
import dev.graphema.query.Window;
import dev.graphema.query.answer.Differences;
import dev.graphema.query.typed.TimeWords;
import dev.graphema.text.Escapes;
import dev.graphema.text.Utf8Buffer;
import java.io.IOException;
import java.time.Instant;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.stream.Collectors;

/** Shows the differences between two windows or two conditions. */
public final class ContrastVerb extends FindingVerb {
    private static final int MOST_ALSO = 3;

    private final Argument<String> condition = own().condition("The events, of both sides unless --than is given.");
    private final Argument<String> since =
            own().text("--since", "TIME", "Compare events from that time on with those before.");
    private final Argument<String> against =
            own().text("--against", "INTERVAL", "Compare with the events of another window.");
    private final Argument<String> than =
            own().text("--than", "CONDITION", "Compare with the events that match another condition.");
    private final Argument<Integer> limit =
            own().count("--limit", 20, "Show the N most surprising; 0 for all. Default: 20.");
    private final Argument<Table.Form> form = form();

    public ContrastVerb() {
        super("contrast", "Shows the differences between two windows or two conditions.");
    }

    @Override
    protected String details() {
        return "Shows messages, failures and values of fields that are new, gone, or much more or less frequent, the"
                + " most surprising first. Events are compared with those before a time (--since), in another window"
                + " (--against), or those that match another condition (--than).";
    }

    @Override
    protected String examples() {
        return """
                graphema contrast --since 2026-05-15T06:55 --in logs
                graphema contrast --during 07:10/PT40M --against 06:00/PT55M --in logs
                graphema contrast 'instance = deck-2' --than 'instance = deck-1' --in logs
                """;
    }

    @Override
    public Question<Differences> question() throws IOException, MisuseException {
        if ((since.isGiven() ? 1 : 0) + (against.isGiven() ? 1 : 0) + (than.isGiven() ? 1 : 0) != 1) {
            throw new MisuseException(
                    "there is nothing to compare with: expected one of --since TIME, --against INTERVAL, --than CONDITION");
        }
        EventSelection these = selection(condition(condition.value()));
        EventSelection others = others(these);
        if (since.isGiven()) {
            Window all = input().window(out());
            long moment = InputOptions.moment("--since", since.value(), words());
            these = these.during(new Window(Math.max(all.from(), moment), all.to()));
        }
        return these.ask(new Ask.Contrast(others.where(), others.during()));
    }

    @Override
    public int call() throws IOException, MisuseException {
        int most = limit(limit.value());
        Differences contrast = answer(question());
        complain(contrast.coverage());
        if (contrast.others() == 0 || contrast.events() == 0) {
            out().note(
                            contrast.others() == 0
                                    ? "there is no event to compare with: choose another window or condition"
                                    : "no event matches, so there is nothing to compare: choose another window or condition");
            return NOTHING;
        }
        contrast = withoutDemanded(contrast);
        show(contrast, most);
        return contrast.differences().isEmpty() ? NOTHING : 0;
    }

    /** Removes differences that the conditions themselves require. */
    private Differences withoutDemanded(Differences contrast) {
        if (!than.isGiven()) {
            return contrast;
        }
        Set<Name> demanded = new HashSet<>(condition(than.value()).names());
        demanded.addAll(condition(condition.value()).names());
        return contrast.only(
                each -> !demanded.containsAll(condition(each.condition()).names()));
    }

    private EventSelection others(EventSelection these) throws MisuseException {
        if (than.isGiven()) {
            return these.where(condition(than.value()));
        }
        if (against.isGiven()) {
            return these.during(InputOptions.interval("--against", against.value(), words()));
        }
        long from = input().window(out()).from();
        return these.during(new Window(from, InputOptions.moment("--since", since.value(), words()) - 1));
    }

    private TimeWords words() {
        return new TimeWords(out().zone(), Instant.now());
    }

    private void show(Differences contrast, int most) {
        List<Differences.Difference> shown =
                contrast.differences().stream().limit(most).toList();
        if (form.value() == Table.Form.json) {
            printJson(contrast, most);
            return;
        }
        if (form.value() != Table.Form.text) {
            Table table = new Table(List.of(
                    "difference", "what", "others", "these", "others_share", "these_share", "surprise", "also"));
            shown.forEach(each -> table.row(List.of(
                    each.kind().name().toLowerCase(Locale.ROOT),
                    each.condition(),
                    each.others(),
                    each.events(),
                    rounded((double) each.others() / contrast.others()),
                    rounded((double) each.events() / contrast.events()),
                    rounded(each.surprise()),
                    String.join("; ", each.also()))));
            table.print(form.value(), out());
            return;
        }
        text(contrast, shown);
        out().note("of " + Counted.of(contrast.events(), "event") + ", against "
                + Counted.of(contrast.others(), "other")
                + "; "
                + (contrast.differences().isEmpty()
                        ? "nothing differs more than chance explains"
                        : shown.size() < contrast.differences().size()
                                ? "the " + shown.size() + " most surprising of "
                                        + Counted.of(contrast.differences().size(), "difference")
                                : Counted.of(shown.size(), "difference")));
        if (!contrast.tooManyValues().isEmpty()) {
            out().note("not compared because of too many values: "
                    + String.join(
                            ", ", contrast.tooManyValues().stream().sorted().toList()));
        }
        shown.stream()
                .filter(each -> each.kind() == Differences.Kind.NEW || each.kind() == Differences.Kind.MORE)
                .findFirst()
                .ifPresent(each -> next(
                        "to see the first of what is new or more frequent",
                        "find " + Shell.quoted(joined(condition(condition.value()), each.condition()))));
    }

    private static double rounded(double value) {
        return Math.round(value * 1e6) / 1e6;
    }

    private void text(Differences contrast, List<Differences.Difference> shown) {
        int width = shown.stream()
                .mapToInt(each -> Escapes.visible(each.condition()).length())
                .max()
                .orElse(4);
        int what = Math.min(60, Math.max(4, width));
        Utf8Buffer to = new Utf8Buffer(4096);
        to.text(String.format("%-5s  %-" + what + "s  %9s  %9s  %s%n", "", "what", "others", "these", "share of all"));
        for (Differences.Difference each : shown) {
            String kind = String.format("%-5s", each.kind().name().toLowerCase(Locale.ROOT));
            if (each.kind() == Differences.Kind.NEW || each.kind() == Differences.Kind.MORE) {
                out().paint().of(Level.WARN, to, kind);
            } else {
                to.text(kind);
            }
            String condition = Escapes.visible(each.condition());
            condition = condition.length() > what ? condition.substring(0, what - 1) + "…" : condition;
            to.text(String.format(
                    "  %-" + what + "s  %9s  %9s  %s%n",
                    condition,
                    Counted.number(each.others()),
                    Counted.number(each.events()),
                    share(each.others(), contrast.others()) + " → " + share(each.events(), contrast.events())));
            also(each, to);
        }
        out().print(to);
    }

    /** Prints differences that are probably about the same events. */
    private void also(Differences.Difference difference, Utf8Buffer to) {
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
