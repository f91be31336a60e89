package dev.graphema.cli.verb;

import dev.graphema.cli.arguments.MisuseException;
import dev.graphema.cli.output.Console;
import dev.graphema.cli.output.Counted;
import dev.graphema.condition.Condition;
import dev.graphema.condition.Expression;
import dev.graphema.condition.Name;
import dev.graphema.condition.Operator;
import dev.graphema.event.Attribute;
import dev.graphema.event.Event;
import dev.graphema.format.ClockText;
import dev.graphema.lines.shape.CommonNames;
import dev.graphema.query.Ask;
import dev.graphema.query.Question;
import dev.graphema.query.answer.CountTable;
import dev.graphema.query.answer.FieldCatalogue;
import dev.graphema.text.Nearest;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/** Explains why no event matches: names and values that no event has, and the parts of the condition that exclude all. */
final class EmptyAnswer {
    private static final int MOST_PARTS = 8;
    private static final int MOST_SHOWN = 8;

    private final FindingVerb verb;
    private final Console out;

    EmptyAnswer(FindingVerb verb) {
        this.verb = verb;
        this.out = verb.out();
    }

    void explain(Condition wanted) throws IOException, MisuseException {
        boolean isAboutTime = !verb.selection(wanted).during().isAlways()
                || wanted.names().stream().anyMatch(name -> name.attribute() == Attribute.TIME);
        if (isAboutTime) {
            times();
        }
        List<String> unknown =
                wanted.names().stream().anyMatch(name -> name.field() != null) ? fields(wanted) : List.of();
        List<Expression> parts = FindingVerb.parts(wanted);
        for (Expression part : parts) {
            value(part, unknown);
        }
        if (parts.size() > 1 && parts.size() <= MOST_PARTS) {
            for (int i = 0; i < parts.size(); i++) {
                without(parts, i);
            }
        }
    }

    private void times() throws IOException, MisuseException {
        List<Event> oldest =
                verb.answer(Question.where("time exists").oldest(1)).events();
        List<Event> newest =
                verb.answer(Question.where("time exists").newest(1)).events();
        ClockText clock = ClockText.dateAndTime(out.zone());
        note(
                oldest.isEmpty()
                        ? "no event has a time"
                        : "the events are from " + clock.text(oldest.get(0).epochNanos()) + " to "
                                + clock.text(newest.get(0).epochNanos()));
    }

    /**
     * Names the fields of the condition that no event has.
     *
     * @return these
     */
    private List<String> fields(Condition wanted) throws IOException, MisuseException {
        FieldCatalogue survey = verb.answer(Question.all().catalogue());
        for (String field : survey.durationsComparedWithNumbers(wanted)) {
            note(field + " is a duration: compare it with one, as in " + field + " > 1s");
        }
        List<String> unknown = new ArrayList<>(survey.unknownFields(wanted));
        unknown.removeIf(verb.input().shape()::isComputed);
        unknown.forEach(field -> unknown(field, survey));
        if (!unknown.isEmpty() && !survey.fields().isEmpty()) {
            note("fields there are: " + shown(survey.fields().stream().toList(), 30));
        }
        return unknown;
    }

    private void unknown(String field, FieldCatalogue survey) {
        List<String> known = Stream.concat(
                        survey.fields().stream(), Stream.of(Attribute.values()).map(Attribute::text))
                .toList();
        String readAs = CommonNames.readAs(field);
        note("no event has a field called " + field
                + (readAs == null
                        ? Nearest.hint(field, known)
                        : "; in lines of other programs, it is read as " + readAs + ": ask for " + readAs));
    }

    /** Names the values that there are instead of one that no event has. */
    private void value(Expression part, List<String> unknown) throws IOException, MisuseException {
        if (!(part instanceof Expression.Comparison comparison)
                || comparison.operator() != Operator.EQUAL
                || comparison.name().attribute() == Attribute.TIME
                || unknown.contains(comparison.name().toString())) {
            return;
        }
        Name name = comparison.name();
        CountTable values = verb.answer(Question.all().ask(new Ask.Counts(List.of(name), null)));
        List<String> texts = values.rows().stream()
                .map(row -> row.values().get(0))
                .filter(Objects::nonNull)
                .toList();
        String wanted = comparison.literal().source();
        if (!texts.isEmpty() && !texts.contains(wanted) && isNowhere(part)) {
            note("no event has " + part + Nearest.hint(wanted, texts) + "; values there are: "
                    + shown(texts, MOST_SHOWN));
        }
    }

    private boolean isNowhere(Expression part) throws IOException, MisuseException {
        return count(Question.where(Condition.of(part)).ask(new Ask.Counts(List.of(), null))) == 0;
    }

    /** Counts the events that match all other parts of the condition. */
    private void without(List<Expression> parts, int index) throws IOException, MisuseException {
        List<Expression> others = new ArrayList<>(parts);
        Expression part = others.remove(index);
        Condition rest = Condition.of(others.size() == 1 ? others.get(0) : new Expression.And(others));
        long count = count(verb.selection(rest).ask(new Ask.Counts(List.of(), null)));
        if (count > 0) {
            note("without " + part + ", " + Counted.of(count, "event") + " would match");
        }
    }

    private long count(Question<CountTable> question) throws IOException, MisuseException {
        return verb.answer(question).all().kept();
    }

    private static String shown(List<String> texts, int most) {
        return texts.stream().limit(most).collect(Collectors.joining(", ")) + (texts.size() > most ? ", …" : "");
    }

    private void note(String line) {
        verb.progress().clear();
        out.note("  " + line);
    }
}
