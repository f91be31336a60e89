package dev.graphema.cli.verb;

import dev.graphema.cli.arguments.Argument;
import dev.graphema.cli.arguments.MisuseException;
import dev.graphema.cli.input.InputOptions;
import dev.graphema.cli.output.Console;
import dev.graphema.cli.output.Counted;
import dev.graphema.cli.output.Progress;
import dev.graphema.cli.output.Shell;
import dev.graphema.cli.output.Table;
import dev.graphema.condition.Condition;
import dev.graphema.condition.Expression;
import dev.graphema.query.EventSelection;
import dev.graphema.query.Question;
import dev.graphema.query.answer.Answer;
import dev.graphema.query.answer.Coverage;
import dev.graphema.query.json.AnswerJson;
import dev.graphema.query.source.EventSource;
import dev.graphema.query.source.QueryExecutor;
import dev.graphema.text.Escapes;
import java.io.IOException;
import java.util.List;

/** A command that searches logs, with options for the logs, and with suggestions of further commands. */
public abstract class FindingVerb extends Verb {
    private final InputOptions input =
            new InputOptions(group("Logs:"), group("Time window:"), group("How lines are read:"));
    private Progress progress;
    private boolean hasFailed;

    FindingVerb(String name, String purpose) {
        super(name, purpose);
    }

    @Override
    public boolean isAboutTimes() {
        return true;
    }

    @Override
    public boolean hasFailed() {
        return hasFailed;
    }

    final InputOptions input() {
        return input;
    }

    /** The form of the answer. */
    final Argument<Table.Form> form() {
        return own().choice("--as", "FORM", Table.Form.text, "text, table, json or csv. Default: text.");
    }

    /** Returns the console with the requested time zone. */
    final Console out() {
        return input.zoned(console());
    }

    final Condition condition(String text) {
        return Condition.parse(text, () -> out().zone());
    }

    /** Returns the requested events of the logs. */
    final EventSelection selection(Condition wanted) throws IOException, MisuseException {
        return input.selection(out(), wanted);
    }

    /** Returns the logs. */
    final EventSource logs() throws IOException, MisuseException {
        return input.logs(out());
    }

    /**
     * Returns the question that the arguments ask.
     *
     * @throws MisuseException if they are invalid
     */
    public abstract Question<?> question() throws IOException, MisuseException;

    /** Returns whether the question is to be explained instead of answered. */
    public final boolean isExplained() {
        return input.isExplained();
    }

    /** Prints how the question would be answered. */
    public final void explain() throws IOException, MisuseException {
        QueryExecutor.explain(question(), logs()).lines().map(Escapes::visible).forEach(out()::print);
    }

    /** Answers a question about the logs, with a progress display. */
    final <A extends Answer> A answer(Question<A> question) throws IOException, MisuseException {
        return QueryExecutor.answer(question, logs(), progress());
    }

    final Progress progress() {
        if (progress == null) {
            progress = new Progress(console());
        }
        return progress;
    }

    /** Prints the first rows of an answer, each as a JSON object on one line. */
    final void printJson(Answer answer, int most) {
        AnswerJson.rows(answer).limit(most).forEach(out()::print);
    }

    /** Removes the progress display, and reports what could not be read. */
    final void complain(Coverage coverage) {
        progress().clear();
        input.complain(coverage, out());
        hasFailed |= !coverage.failures().isEmpty();
        coverage.truncated().forEach(reason -> out().note("note: " + reason));
        if (coverage.isStopped()) {
            out().note("stopped: this is the result of the first " + Progress.read(coverage.events(), coverage.bytes())
                    + " alone");
        }
    }

    /** Suggests a further command and its purpose. */
    final void next(String purpose, String verbAndArguments) {
        out().note(purpose + ": " + out().command() + " " + verbAndArguments + input.again());
    }

    /**
     * Reports that nothing matches a condition, and explains why.
     *
     * @return the exit code
     */
    final int nothing(Condition wanted, Coverage coverage) throws IOException, MisuseException {
        if (coverage.events() == 0) {
            out().note(
                            coverage.files() == 0
                                    ? "there are no events"
                                    : "no events in " + Counted.of(coverage.files(), "file"));
            return NOTHING;
        }
        out().note("no event matches; " + Counted.read(coverage));
        if (!input.readsStandardInput()) { // which is used up
            new EmptyAnswer(this).explain(wanted);
        }
        return NOTHING;
    }

    /** Combines the condition with another one; a part of both is not repeated. */
    static String joined(Condition wanted, String more) {
        List<String> known = parts(wanted).stream().map(Expression::toString).toList();
        Condition joined = wanted;
        for (Expression part : parts(Condition.parse(more))) {
            joined = known.contains(part.toString()) ? joined : joined.and(Condition.of(part));
        }
        return joined.toString();
    }

    /** Returns the parts that must all be true. */
    static List<Expression> parts(Condition condition) {
        return condition.expression() instanceof Expression.And and ? and.parts() : List.of(condition.expression());
    }

    /** Returns the condition as an argument of a command, preceded by a space; empty if there is none. */
    static String argument(Condition wanted) {
        return wanted.isEverything() ? "" : " " + Shell.quoted(wanted.toString());
    }

    /** Returns the requested number of rows; 0 means all. */
    static int limit(int given) {
        return given == 0 ? Integer.MAX_VALUE : given;
    }
}
