package dev.graphema.cli.arguments;

import dev.graphema.text.Nearest;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import org.apache.commons.cli.DefaultParser;
import org.apache.commons.cli.MissingArgumentException;
import org.apache.commons.cli.Option;
import org.apache.commons.cli.Options;
import org.apache.commons.cli.ParseException;
import org.apache.commons.cli.UnrecognizedOptionException;

/**
 * The arguments of a command: words by position, and options in groups. They are declared first ({@link #own}, {@link
 * #group}), then the command line is {@linkplain #read read}, and then each {@link Argument} has its value. For one
 * thread and one command line.
 */
public final class Arguments {
    private static final String DASHES = "--";

    private final List<Group> groups = new ArrayList<>();
    private final Argument<Boolean> help;

    public Arguments() {
        group("");
        help = new Group("").flag("--help", "Show this help.");
    }

    /** Returns the group of words and own options. */
    public Group own() {
        return groups.get(0);
    }

    /** Returns a further group of options with a heading. */
    public Group group(String heading) {
        Group group = new Group(heading);
        groups.add(group);
        return group;
    }

    List<Group> groups() {
        return groups;
    }

    /** The option for help, which every command has. */
    Argument<Boolean> help() {
        return help;
    }

    /**
     * Reads the words after the name of the command.
     *
     * @return false if help is requested
     * @throws MisuseException if an argument is unexpected or missing
     */
    public boolean read(String... line) throws MisuseException {
        List<Argument<?>> words = own().words();
        boolean hasRest = !words.isEmpty() && words.get(words.size() - 1).takesRest();
        List<String> left = given(line, hasRest);
        if (help.value()) {
            return false;
        }
        int at = 0;
        for (Argument<?> word : words) {
            if (at == left.size() && word.isNeeded()) {
                throw new MisuseException(word.name() + " is missing: expected " + lowerCase(word.help()));
            }
            int end = word.takesMany() ? left.size() : Math.min(at + 1, left.size());
            while (at < end) {
                word.give(left.get(at++));
            }
        }
        if (at < left.size()) {
            throw new MisuseException("\"" + left.get(at) + "\" is unexpected: " + instead(words));
        }
        return true;
    }

    private static String instead(List<Argument<?>> words) {
        if (words.isEmpty()) {
            return "expected only options";
        }
        String last = words.get(words.size() - 1).name();
        return last.startsWith(Group.CONDITION)
                ? "put the whole condition in quotes"
                : "expected nothing after " + last;
    }

    /** Returns the text as the end of a sentence. */
    private static String lowerCase(String help) {
        return help.substring(0, 1).toLowerCase(Locale.ROOT) + help.substring(1, help.length() - 1);
    }

    /**
     * Sets the values of options.
     *
     * @return the words
     */
    private List<String> given(String[] line, boolean hasRest) throws MisuseException {
        Options options = new Options();
        for (Argument<?> option : all()) {
            String shortName = option == help ? "h" : null;
            options.addOption(new Option(shortName, option.name().substring(DASHES.length()), !option.isFlag(), null));
        }
        try {
            // Values are literal, and names must not be abbreviated.
            var read = DefaultParser.builder()
                    .setAllowPartialMatching(false)
                    .setStripLeadingAndTrailingQuotes(false)
                    .get()
                    .parse(options, line, hasRest);
            for (Option option : read.getOptions()) {
                option(DASHES + option.getLongOpt()).give(option.getValue());
            }
            return read.getArgList();
        } catch (MissingArgumentException e) {
            Argument<?> option = option(DASHES + e.getOption().getLongOpt());
            throw new MisuseException(
                    option.name() + " has no value: expected " + option.name() + " " + option.label());
        } catch (UnrecognizedOptionException e) {
            throw unknown(e.getOption());
        } catch (ParseException e) {
            throw new MisuseException(e.getMessage());
        }
    }

    private MisuseException unknown(String given) {
        String name = given.contains("=") ? given.substring(0, given.indexOf('=')) : given;
        return option(name) != null
                ? new MisuseException(name + " takes no value: expected " + name + " alone")
                : new MisuseException("there is no option " + name + Nearest.hint(name, options()));
    }

    private Argument<?> option(String name) {
        for (Argument<?> option : all()) {
            if (option.name().equals(name)) {
                return option;
            }
        }
        return null;
    }

    /** Returns the names of all options, such as {@code --in}. */
    public List<String> options() {
        return all().stream().map(Argument::name).toList();
    }

    private List<Argument<?>> all() {
        List<Argument<?>> all = new ArrayList<>();
        groups.forEach(group -> all.addAll(group.options()));
        all.add(help);
        return all;
    }
}
