package dev.graphema.cli.verb;

import dev.graphema.cli.arguments.Argument;
import dev.graphema.cli.arguments.MisuseException;
import dev.graphema.cli.output.Counted;
import dev.graphema.cli.output.Shell;
import dev.graphema.cli.output.Table;
import dev.graphema.condition.Condition;
import dev.graphema.condition.Literal;
import dev.graphema.condition.Name;
import dev.graphema.lines.shape.CommonNames;
import dev.graphema.query.Ask;
import dev.graphema.query.Question;
import dev.graphema.query.answer.CountTable;
import dev.graphema.query.answer.Estimate;
import dev.graphema.query.answer.Measure;
import dev.graphema.query.part.TextPart;
import dev.graphema.query.source.QueryExecutor;
import dev.graphema.text.Durations;
import dev.graphema.text.Escapes;
import dev.graphema.text.Utf8Buffer;
import java.io.IOException;
import java.math.BigDecimal;
import java.math.MathContext;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.regex.Pattern;

/** Counts the values of fields. */
public final class TallyVerb extends FindingVerb {
    private static final int WIDEST_VALUE = 60;
    private static final int WIDEST_EXAMPLE = 100;
    private static final int BAR_WIDTH = 30;
    private static final int RANGE_WIDTH = 19;
    private static final String MISSING = "(missing)";
    private static final MathContext SIGNIFICANT = new MathContext(6);

    /** Names and what is between them: without a space or a quote, unlike a condition. */
    private static final Pattern NAMES = Pattern.compile("\\s*|[^\\s\"=<>()]+(\\s*,\\s*[^\\s\"=<>()]*)*");

    private final Argument<String> fields = own().optionalWord(
                    "FIELDS",
                    "",
                    text -> text,
                    "The names to count by, separated by commas. Default: none, for one count.");
    private final Argument<String> condition = own().condition("Which events, for example: level >= error.");
    private final Argument<Boolean> items = own().flag(
                    "--items",
                    "Count an event once for each different item of a list, instead of for the complete list.");
    private final Argument<Integer> limit =
            own().count("--limit", 20, "Show the N most frequent; 0 for all. Default: 20.");
    private final Argument<String> measured = own().text(
                    "--of",
                    "FIELD",
                    "Also show statistics of a field in each row: the number of different values, and for numbers sum, mean,"
                            + " percentiles, minimum and maximum.");
    private final Argument<List<BigDecimal>> percentiles = own().option(
                    "--percentiles",
                    "P,...",
                    Ask.Counts.USUAL_PERCENTILES,
                    TallyVerb::percentiles,
                    "The percentiles that --of shows, such as 90,99.9. Default: 50,95,99. They are exact up to 100,000"
                            + " different numbers, and within 0.1 % beyond.");
    private final Argument<Table.Form> form = form();

    public TallyVerb() {
        super("tally", "Counts events by values of fields.");
    }

    @Override
    public boolean isAboutTimes() {
        return false;
    }

    @Override
    protected String details() {
        return "The most frequent come first, with their share of all events. Sampled events count with their weights;"
                + " such counts are estimates, marked with ~ and with the 99 % confidence interval.";
    }

    @Override
    protected String examples() {
        return """
                graphema tally service,instance 'level >= error' --in logs
                graphema tally failure.type --in logs --last 1h
                graphema tally message.shape --in app.log
                graphema tally 'status >= 500' --of elapsed --percentiles 50,99.9 --in logs
                graphema tally instance 'message = "reserve lanes"' --of lock_wait_ms --in logs
                """;
    }

    @Override
    public Question<CountTable> question() throws IOException, MisuseException {
        Name statistics = measured.isGiven() ? Name.of(measured.value()) : null;
        return selection(wanted()).ask(new Ask.Counts(names(), statistics, percentiles.value(), items.value()));
    }

    @Override
    public int call() throws IOException, MisuseException {
        Condition wanted = wanted();
        CountTable tally = answer(question());
        complain(tally.coverage());
        if (tally.all().kept() == 0) {
            return nothing(wanted, tally.coverage());
        }
        int shown = Math.min(limit(limit.value()), tally.rows().size());
        if (form.value() == Table.Form.json) {
            printJson(tally, shown);
        } else if (form.value() == Table.Form.text && !measured.isGiven()) {
            table(tally, shown);
        } else {
            values(tally, shown).print(form.value(), out());
        }
        if (form.value() == Table.Form.text) {
            summary(tally, shown, wanted);
        }
        return 0;
    }

    private Table values(CountTable tally, int shown) {
        List<String> names =
                new ArrayList<>(tally.names().stream().map(Name::toString).toList());
        names.add("count");
        boolean hasEstimates = tally.all().isEstimate();
        if (hasEstimates) {
            names.addAll(List.of("kept", "low", "high"));
        }
        if (measured.isGiven()) {
            names.addAll(List.of("different", "sum", "mean"));
            percentiles.value().forEach(each -> names.add(Measure.Percentile.name(each)));
            names.addAll(List.of("least", "most"));
            if (!isForPeople()) {
                names.add("error");
            }
        }
        Table table = new Table(names);
        for (CountTable.Row row : tally.rows().subList(0, shown)) {
            List<Object> values = new ArrayList<>(row.values());
            values.add(row.events().count());
            if (hasEstimates) {
                values.addAll(List.of(
                        row.events().kept(), row.events().low(), row.events().high()));
            }
            if (measured.isGiven()) {
                values.addAll(statistics(row.measured()));
            }
            table.row(values);
        }
        return table;
    }

    private List<Object> statistics(Measure measure) {
        List<Object> values = new ArrayList<>();
        values.add(measure.distinct());
        boolean hasNumbers = measure.numbers() > 0;
        values.add(hasNumbers ? number(measure.sum(), measure) : null);
        values.add(hasNumbers ? number(measure.mean(), measure) : null);
        for (BigDecimal each : percentiles.value()) {
            Object value = hasNumbers ? number(measure.percentile(each.doubleValue()), measure) : null;
            values.add(isForPeople() && measure.error() > 0 ? "~" + value : value);
        }
        values.add(hasNumbers ? number(measure.least(), measure) : null);
        values.add(hasNumbers ? number(measure.most(), measure) : null);
        if (!isForPeople()) {
            values.add(hasNumbers ? BigDecimal.valueOf(measure.error()) : null);
        }
        return values;
    }

    private boolean isForPeople() {
        return form.value() == Table.Form.text || form.value() == Table.Form.table;
    }

    /** Returns a number with all its digits; for people, with six significant ones. */
    private Object number(BigDecimal number, Measure measure) {
        if (measure.isDuration()) {
            Duration duration = Durations.ofNanos(number);
            return isForPeople() ? Durations.text(duration) : duration.toString();
        }
        boolean isWhole = number.stripTrailingZeros().scale() <= 0 && (long) number.precision() - number.scale() <= 18;
        if (isWhole) {
            return number.longValueExact();
        }
        return isForPeople() ? number.round(SIGNIFICANT).stripTrailingZeros() : number;
    }

    private static List<BigDecimal> percentiles(String text) {
        String expected = "expected numbers above 0 and up to 100, separated by commas, such as 50,90,99.9";
        List<BigDecimal> percentiles = new ArrayList<>();
        for (String part : text.split(",", -1)) {
            try {
                BigDecimal percentile = new BigDecimal(part.strip().replaceFirst("^p", ""));
                if (percentile.signum() <= 0 || percentile.compareTo(BigDecimal.valueOf(100)) > 0) {
                    throw new IllegalArgumentException(expected);
                }
                percentiles.add(percentile);
            } catch (NumberFormatException e) {
                throw new IllegalArgumentException(expected, e);
            }
        }
        return percentiles;
    }

    /** Returns the condition, which may be the only word. */
    private Condition wanted() throws MisuseException {
        return condition(isOnlyCondition() ? fields.value() : condition.value());
    }

    /** Whether the first word is a condition, not a list of names. */
    private boolean isOnlyCondition() {
        return !condition.isGiven() && !NAMES.matcher(fields.value()).matches();
    }

    private List<Name> names() throws MisuseException {
        if (isOnlyCondition() || fields.value().isBlank()) {
            return List.of();
        }
        return names(fields.value());
    }

    /** Parses names that are separated by commas. */
    static List<Name> names(String text) throws MisuseException {
        List<String> words =
                Arrays.stream(text.split(",", -1)).map(String::strip).toList();
        if (words.contains("")) {
            throw new MisuseException(
                    "\"" + text + "\" has an empty name: expected names separated by commas, as in service,instance");
        }
        return words.stream().map(Name::of).toList();
    }

    private void table(CountTable tally, int shown) throws IOException, MisuseException {
        List<String[]> cells = new ArrayList<>();
        cells.add(tally.names().stream().map(Name::toString).toArray(String[]::new));
        for (CountTable.Row row : tally.rows().subList(0, shown)) {
            cells.add(row.values().stream().map(TallyVerb::cell).toArray(String[]::new));
        }
        int[] widths = new int[tally.names().size()];
        for (String[] row : cells) {
            for (int i = 0; i < row.length; i++) {
                widths[i] = Math.max(widths[i], row[i].length());
            }
        }
        Map<String, String> examples = examples(tally, shown);
        int countWidth = Math.max(5, count(tally.rows().get(0).events()).length() + 1);
        Utf8Buffer to = new Utf8Buffer(4096);
        values(cells.get(0), widths, to);
        boolean hasEstimates = tally.all().isEstimate();
        to.text(Counted.right("count", countWidth))
                .text(hasEstimates ? "  " + Counted.right("likely range", RANGE_WIDTH) : "")
                .text("   share\n");
        for (int i = 0; i < shown; i++) {
            CountTable.Row row = tally.rows().get(i);
            double share = (double) row.events().count() / tally.all().count();
            values(cells.get(i + 1), widths, to);
            to.text(Counted.right(count(row.events()), countWidth))
                    .text(hasEstimates ? "  " + Counted.right(range(row.events()), RANGE_WIDTH) : "")
                    .text("  " + Counted.right(Counted.tenths(share * 100), 5) + "%  ")
                    .repeated("█", (int) Math.max(1, Math.round(share * BAR_WIDTH)))
                    .ascii('\n');
            String example =
                    examples.isEmpty() ? null : examples.get(row.values().get(0));
            if (example != null) {
                to.text("  for example: ").text(cell(example, WIDEST_EXAMPLE)).ascii('\n');
            }
        }
        out().print(to);
    }

    /** Returns a text for each of the first shapes that differs from it; empty if the rows are not shapes. */
    private Map<String, String> examples(CountTable tally, int shown) throws IOException, MisuseException {
        TextPart part = tally.names().isEmpty()
                ? null
                : TextPart.named(tally.names().get(0).toString());
        if (part == null || part.kind() != TextPart.Kind.SHAPE || input().readsStandardInput()) {
            return Map.of();
        }
        Set<String> wanted = new HashSet<>();
        tally.rows().subList(0, shown).forEach(row -> wanted.add(row.values().get(0)));
        wanted.remove(null);
        Map<String, String> examples = new HashMap<>(); // the shape of a missing text is null
        QueryExecutor.read(selection(wanted()), logs(), progress(), event -> {
            Object text = part.of().value(event);
            String shape = part.value(event);
            if (shape != null && wanted.remove(shape) && !text.equals(shape)) {
                examples.put(shape, text.toString());
            }
            return !wanted.isEmpty();
        });
        progress().clear();
        return examples;
    }

    private static String count(Estimate events) {
        return (events.isEstimate() ? "~" : "") + Counted.number(events.count());
    }

    /** Returns the confidence interval. */
    private static String range(Estimate events) {
        return events.isEstimate() ? Counted.number(events.low()) + " to " + Counted.number(events.high()) : "exact";
    }

    private static void values(String[] values, int[] widths, Utf8Buffer to) {
        for (int i = 0; i < values.length; i++) {
            to.text(values[i]).spaces(widths[i] - values[i].length() + 2);
        }
    }

    private static String cell(String value) {
        return cell(value == null ? MISSING : value, WIDEST_VALUE);
    }

    private static String cell(String value, int widest) {
        String shown = Escapes.visible(value);
        return shown.length() <= widest ? shown : shown.substring(0, widest - 1) + "…";
    }

    private void summary(CountTable tally, int shown, Condition wanted) {
        String rows = tally.names().isEmpty()
                ? ""
                : shown < tally.rows().size()
                        ? "the first " + Counted.number(shown) + " of "
                                + Counted.of(tally.rows().size(), "value")
                        : Counted.of(shown, "value");
        out().note((rows.isEmpty() ? "" : rows + ", ") + Counted.of(tally.all().kept(), "event")
                + (tally.all().isEstimate()
                        ? " that represent " + count(tally.all()) + " (" + range(tally.all()) + " with 99 % confidence)"
                        : "")
                + "; " + Counted.read(tally.coverage()));
        for (int i = 0; i < tally.names().size(); i++) {
            int column = i;
            String readAs = CommonNames.readAs(tally.names().get(i).toString());
            if (readAs != null
                    && tally.rows().stream().allMatch(row -> row.values().get(column) == null)) {
                out().note("in lines of other programs, " + tally.names().get(i) + " is read as " + readAs
                        + ": ask for " + readAs);
            }
        }
        if (tally.rows().stream()
                .anyMatch(row -> row.measured() != null && row.measured().error() > 0)) {
            out().note("percentiles with ~ are within 0.1 %, because there are more than "
                    + Counted.number(Measure.MOST_DISTINCT) + " different numbers");
        }
        if (tally.names().isEmpty()) {
            next("to see them", "find" + argument(wanted));
            return;
        }
        String first = conditionOf(tally.names(), tally.rows().get(0).values());
        if (!first.contains(CountTable.OTHERS)) {
            next("to see the first", "find " + Shell.quoted(joined(wanted, first)));
            if (tally.rows().size() > 1 && tally.names().size() == 1 && !first.endsWith(" exists")) {
                next(
                        "to leave it out",
                        "tally " + Shell.quoted(fields.value()) + " " + Shell.quoted(joined(wanted, "not " + first))
                                + (items.value() ? " --items" : ""));
            }
        }
    }

    /** Returns the condition of the events of a row. */
    static String conditionOf(List<Name> names, List<String> values) {
        List<String> parts = new ArrayList<>();
        for (int i = 0; i < names.size(); i++) {
            String value = values.get(i);
            boolean isList = value != null && value.startsWith("[") && value.endsWith("]"); // no item is equal to it
            parts.add(
                    value == null
                            ? names.get(i) + " missing"
                            : isList ? names.get(i) + " exists" : names.get(i) + " = " + Literal.written(value));
        }
        return String.join(" and ", parts);
    }
}
