package dev.graphema.cli.arguments;

import dev.graphema.terminal.Paint;
import dev.graphema.text.Utf8Buffer;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Stream;

/**
 * Formats help: paragraphs, and columns of a term and its description, wrapped between words only, so that examples can
 * be copied.
 */
public final class Help {
    private static final String MARGIN = "  ";
    private static final int WIDEST_TERM = 26;

    private final Utf8Buffer to = new Utf8Buffer(4096);
    private final Paint paint;
    private final int width;

    /** @param width the width of a line in characters */
    public Help(Paint paint, int width) {
        this.paint = paint;
        this.width = width;
    }

    /** Formats the help of a command: usage, description and arguments. */
    public static Help of(String command, String purpose, Arguments arguments, Paint paint, int width) {
        Help help = new Help(paint, width);
        StringBuilder usage = new StringBuilder("Usage: ").append(command);
        for (Argument<?> word : arguments.own().words()) {
            usage.append(' ')
                    .append(word.isNeeded() ? word.label() : "[" + word.label() + "]")
                    .append(word.takesMany() ? "..." : "");
        }
        help.heading(usage.append(" [OPTIONS]").toString()).paragraph(purpose);
        List<Argument<?>> own = new ArrayList<>(arguments.own().words());
        own.addAll(arguments.own().options());
        own.add(arguments.help());
        int column = widest(own);
        for (Group group : arguments.groups()) {
            column = Math.max(column, widest(group.options()));
        }
        help.gap();
        for (Argument<?> argument : own) {
            help.term(argument == arguments.help() ? "-h, " + term(argument) : term(argument), column, argument.help());
        }
        for (Group group : arguments.groups()) {
            if (group != arguments.own()) {
                help.gap().heading(group.heading());
                for (Argument<?> argument : group.options()) {
                    help.term(term(argument), column, argument.help());
                }
            }
        }
        return help;
    }

    private static int widest(List<Argument<?>> arguments) {
        return widest(arguments.stream().map(Help::term));
    }

    private static String term(Argument<?> argument) {
        return argument.isFlag() || argument.name().equals(argument.label())
                ? argument.name()
                : argument.name() + " " + argument.label();
    }

    /** Returns the width of a column for these terms. */
    public static int widest(Stream<String> terms) {
        return terms.mapToInt(String::length)
                .filter(length -> length <= WIDEST_TERM)
                .max()
                .orElse(0);
    }

    public Help heading(String text) {
        paint.strong(to, text);
        to.ascii('\n');
        return this;
    }

    public Help gap() {
        to.ascii('\n');
        return this;
    }

    /** Adds a line. */
    public Help line(String text) {
        to.text(text).ascii('\n');
        return this;
    }

    public Help paragraph(String text) {
        wrap(text, 0, 0);
        return this;
    }

    /** Adds a term and its description, below it if the term is too wide. */
    public Help term(String term, int column, String meaning) {
        to.ascii(MARGIN);
        to.text(term);
        int indent = MARGIN.length() + column + MARGIN.length();
        int at = MARGIN.length() + term.length();
        if (at + MARGIN.length() > indent) {
            to.ascii('\n');
            at = 0;
        }
        to.ascii(" ".repeat(indent - at));
        wrap(meaning, indent, indent);
        return this;
    }

    private void wrap(String text, int start, int indent) {
        int at = start;
        boolean isFirst = true;
        for (String word : text.split(" ")) {
            if (!isFirst && at + 1 + word.length() > width) {
                to.ascii('\n').ascii(" ".repeat(indent));
                at = indent;
                isFirst = true;
            }
            if (!isFirst) {
                to.ascii(' ');
                at++;
            }
            to.text(word);
            at += word.length();
            isFirst = false;
        }
        to.ascii('\n');
    }

    /** Returns the text. */
    public Utf8Buffer toBuffer() {
        return to;
    }
}
