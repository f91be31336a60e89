package dev.graphema.cli;

import dev.graphema.condition.ConditionException;
import dev.graphema.event.Nearest;
import dev.graphema.format.Paint;
import java.io.IOException;
import java.io.PrintWriter;
import java.nio.file.NoSuchFileException;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.ServiceLoader;
import java.util.Set;
import picocli.CommandLine;
import picocli.CommandLine.Command;
import picocli.CommandLine.Help.Ansi;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.Spec;
import picocli.CommandLine.UnmatchedArgumentException;

/** The command line: {@code graphema VERB [CONDITION] [--in FILE|DIR|-]...}. */
@Command(
        name = "graphema",
        mixinStandardHelpOptions = true,
        version = "graphema 0.1.0",
        synopsisHeading = "Usage: ",
        description = "Finds structured log events, and follows one request through all services.",
        commandListHeading = "%nVerbs:%n",
        footer = {
            "",
            "graphema VERB --help tells more, with examples.",
            "Exit codes: 0 done, 1 nothing found, 2 misuse."
        })
public final class Main {
    /** Nothing was found. */
    public static final int NOTHING = 1;

    /** The command was called wrongly. */
    public static final int MISUSE = 2;

    /** The verbs that ask logs, and whose questions are remembered. */
    static final List<String> FINDING =
            List.of("around", "contrast", "faults", "find", "tally", "timeline", "trail", "watch");

    /** Those of this module; others come as services. */
    private static final List<String> OWN = List.of(
            "around",
            "check",
            "contrast",
            "explain",
            "faults",
            "find",
            "keep",
            "redact",
            "tally",
            "timeline",
            "trail",
            "watch");

    @Spec
    private CommandSpec spec;

    private Main() {}

    public static void main(String[] arguments) {
        Interruption interruption = Interruption.awaited();
        int code;
        try {
            leaveOut();
            loadZone();
            CommandLine command = command(arguments);
            Console console = ProcessConsole.open(interruption::isAsked);
            code = run(command, console, arguments);
            boolean isHelp =
                    List.of(arguments).contains("--help") || List.of(arguments).contains("-h");
            if (code != MISUSE && !isHelp && arguments.length > 0 && isFinding(arguments[0])) {
                remember(console, List.of(arguments));
            }
        } finally {
            interruption.done();
        }
        System.exit(code);
    }

    /** Spares the parser of arguments what no option here needs: a look through all libraries for another language's classes, and types of time and SQL. */
    private static void leaveOut() {
        System.setProperty("picocli.disable.closures", "true");
        System.setProperty("picocli.converters.excludes", "java\\.(time\\.(?!ZoneId).*|sql\\..*)");
    }

    /** The rules of the time zone come from the disk, as the arguments are made out: beside that, they take no time of their own. */
    private static void loadZone() {
        Thread thread = new Thread(() -> ZoneId.systemDefault().getRules(), "graphema-zone");
        thread.setDaemon(true);
        thread.start();
    }

    static boolean isFinding(String verb) {
        return FINDING.contains(verb);
    }

    /** A question that cannot be remembered was answered all the same. */
    private static void remember(Console console, List<String> arguments) {
        try {
            KeptQuestions.ofUser().asked(arguments);
        } catch (IOException e) {
            console.say("the question will not be among those asked last: " + e.getMessage());
        }
    }

    /**
     * Runs the command in this process.
     *
     * @return the exit code
     */
    public static int run(Console console, String... arguments) {
        return run(command(arguments), console, arguments);
    }

    private static CommandLine command(String... arguments) {
        CommandLine command = new CommandLine(new Main());
        verbs(arguments).forEach(command::addSubcommand);
        command.setCaseInsensitiveEnumValuesAllowed(true);
        return command;
    }

    private static int run(CommandLine command, Console console, String... arguments) {
        command.getSubcommands()
                .values()
                .forEach(verb -> verb.<Verb>getCommand().console(console));
        command.setUsageHelpAutoWidth(false);
        command.setUsageHelpWidth(Math.max(80, Math.min(120, console.width())));
        command.setColorScheme(CommandLine.Help.defaultColorScheme(console.paint() == Paint.NONE ? Ansi.OFF : Ansi.ON));
        command.setOut(new PrintWriter(console.output(), true));
        command.setErr(new PrintWriter(console.error(), true));
        command.setParameterExceptionHandler((problem, wrong) -> misused(console, problem));
        command.setExecutionExceptionHandler((problem, called, result) -> failed(console, problem));
        if (arguments.length == 0) {
            command.usage(command.getOut());
            return MISUSE;
        }
        return command.execute(arguments);
    }

    /** The verb that is called, since the annotations of all of them take longer to read than most questions take to answer; all when none is. */
    private static List<Verb> verbs(String... arguments) {
        if (arguments.length > 0 && OWN.contains(arguments[0])) {
            return List.of(own(arguments[0]));
        }
        List<Verb> all = new ArrayList<>();
        OWN.forEach(name -> all.add(own(name)));
        ServiceLoader.load(Verb.class).forEach(all::add);
        return all;
    }

    private static Verb own(String name) {
        return switch (name) {
            case "around" -> new AroundVerb();
            case "check" -> new CheckVerb();
            case "contrast" -> new ContrastVerb();
            case "explain" -> new ExplainVerb();
            case "faults" -> new FaultsVerb();
            case "find" -> new FindVerb();
            case "keep" -> new KeepVerb();
            case "redact" -> new RedactVerb();
            case "tally" -> new TallyVerb();
            case "timeline" -> new TimelineVerb();
            case "trail" -> new TrailVerb();
            case "watch" -> new WatchVerb();
            default -> throw new IllegalArgumentException(name);
        };
    }

    private static int misused(Console console, ParameterException problem) {
        CommandLine called = problem.getCommandLine();
        boolean isVerb = called.getParent() != null;
        console.say("graphema: "
                + (problem instanceof UnmatchedArgumentException unmatched
                        ? unknown(unmatched.getUnmatched().get(0), called)
                        : problem.getMessage()));
        console.say("See: " + console.command() + " " + (isVerb ? called.getCommandName() + " " : "") + "--help");
        return MISUSE;
    }

    private static String unknown(String word, CommandLine called) {
        if (word.startsWith("-")) {
            String option = word.contains("=") ? word.substring(0, word.indexOf('=')) : word;
            return "there is no option " + option
                    + Nearest.hint(option, called.getCommandSpec().optionsMap().keySet());
        }
        Set<String> verbs = called.getSubcommands().keySet();
        return verbs.isEmpty()
                ? "\"" + word + "\" is one word too many: put the whole condition in quotes"
                : "there is no verb \"" + word + "\": expected one of " + String.join(", ", verbs)
                        + Nearest.hint(word, verbs);
    }

    private static int failed(Console console, Exception problem) throws Exception {
        if (problem instanceof Console.ClosedException) {
            return 0;
        }
        if (problem instanceof MisuseException) {
            console.say("graphema: " + problem.getMessage());
            return MISUSE;
        }
        if (problem instanceof ConditionException) {
            console.say("graphema: in the condition, " + problem.getMessage());
            return MISUSE;
        }
        if (problem instanceof NoSuchFileException) {
            console.say("graphema: there is no file or folder " + problem.getMessage() + "; check the path");
            return MISUSE;
        }
        if (problem instanceof IOException) {
            console.say("graphema: " + problem.getMessage());
            return NOTHING;
        }
        throw problem;
    }
}
