package dev.graphema.cli;

import dev.graphema.cli.arguments.Help;
import dev.graphema.cli.arguments.MisuseException;
import dev.graphema.cli.collect.CollectVerb;
import dev.graphema.cli.collect.TokenVerb;
import dev.graphema.cli.output.Console;
import dev.graphema.cli.output.Interruption;
import dev.graphema.cli.output.ProcessConsole;
import dev.graphema.cli.store.BackupVerb;
import dev.graphema.cli.store.ForgetVerb;
import dev.graphema.cli.store.SegmentVerb;
import dev.graphema.cli.store.StoreVerb;
import dev.graphema.cli.store.TidyVerb;
import dev.graphema.cli.verb.AroundVerb;
import dev.graphema.cli.verb.CheckVerb;
import dev.graphema.cli.verb.CompareVerb;
import dev.graphema.cli.verb.CompletionVerb;
import dev.graphema.cli.verb.ContrastVerb;
import dev.graphema.cli.verb.ExplainVerb;
import dev.graphema.cli.verb.FaultsVerb;
import dev.graphema.cli.verb.FieldsVerb;
import dev.graphema.cli.verb.FindVerb;
import dev.graphema.cli.verb.FindingVerb;
import dev.graphema.cli.verb.KeepVerb;
import dev.graphema.cli.verb.KeptQuestions;
import dev.graphema.cli.verb.OverviewVerb;
import dev.graphema.cli.verb.PageVerb;
import dev.graphema.cli.verb.RedactVerb;
import dev.graphema.cli.verb.ShapeVerb;
import dev.graphema.cli.verb.TallyVerb;
import dev.graphema.cli.verb.TimelineVerb;
import dev.graphema.cli.verb.TrailVerb;
import dev.graphema.cli.verb.Verb;
import dev.graphema.cli.verb.WatchVerb;
import dev.graphema.condition.ConditionException;
import dev.graphema.settings.SettingsException;
import dev.graphema.text.Nearest;
import java.io.IOException;
import java.nio.file.NoSuchFileException;
import java.util.Arrays;
import java.util.List;
import java.util.ServiceLoader;
import java.util.stream.Stream;

/** The command line: {@code graphema VERB [CONDITION] [--in FILE|DIR|-]...}. */
public final class Main {
    /** The commands of this module, which are started without the libraries of others; these are found as services. */
    static final List<String> OWN = List.of(
            "around",
            "backup",
            "check",
            "collect",
            "compare",
            "completion",
            "contrast",
            "explain",
            "faults",
            "fields",
            "find",
            "forget",
            "keep",
            "overview",
            "page",
            "redact",
            "segment",
            "shape",
            "store",
            "tally",
            "tidy",
            "timeline",
            "token",
            "trail",
            "watch");

    private Main() {}

    public static void main(String[] arguments) {
        Interruption interruption = Interruption.awaited();
        int code;
        try {
            Console console = ProcessConsole.open(interruption::isAsked);
            code = run(console, arguments);
            boolean isHelp =
                    List.of(arguments).contains("--help") || List.of(arguments).contains("-h");
            if (code != Verb.MISUSE && !isHelp && arguments.length > 0 && Verb.FINDING.contains(arguments[0])) {
                remember(console, List.of(arguments));
            }
        } finally {
            interruption.done();
        }
        System.exit(code);
    }

    /** The question was answered although it could not be stored. */
    private static void remember(Console console, List<String> arguments) {
        try {
            KeptQuestions.ofUser().asked(arguments);
        } catch (IOException e) {
            console.note("the question could not be added to the recent ones: " + e.getMessage());
        }
    }

    /**
     * Runs the command in this process.
     *
     * @return the exit code
     */
    public static int run(Console console, String... arguments) {
        try {
            return answered(console, arguments);
        } catch (Console.OutputException e) {
            if (!e.isClosedByReader()) {
                console.note("graphema: the output could not be written completely: "
                        + e.getCause().getMessage() + "; it is incomplete");
            }
            return e.isClosedByReader() ? 0 : Verb.NOTHING;
        }
    }

    private static int answered(Console console, String... arguments) {
        String first = arguments.length == 0 ? "--help" : arguments[0];
        Verb verb = verb(first);
        if (verb != null) {
            return asked(verb, console, Arrays.copyOfRange(arguments, 1, arguments.length));
        }
        switch (first) {
            case "-h", "--help" -> overview(console);
            case "-V", "--version" -> console.print("graphema " + version());
            default -> {
                return misused(
                        console,
                        (first.startsWith("-")
                                        ? "there is no option " + first + " before a verb"
                                        : "there is no verb \"" + first + "\"")
                                + ": expected one of " + String.join(", ", names()) + Nearest.hint(first, names()),
                        "");
            }
        }
        return arguments.length == 0 ? Verb.MISUSE : 0;
    }

    private static int asked(Verb verb, Console console, String... line) {
        if (verb.isAboutTimes()) {
            console.prepareZone();
        }
        try {
            if (!verb.read(console, line)) {
                console.print(verb.help());
                return 0;
            }
        } catch (MisuseException e) {
            return misused(console, e.getMessage(), verb.name() + " ");
        }
        try {
            if (verb instanceof FindingVerb finding && finding.isExplained()) {
                finding.explain();
                return 0;
            }
            int code = verb.call();
            return verb.hasFailed() ? Verb.FAILURE : code;
        } catch (MisuseException e) {
            console.note("graphema: " + e.getMessage());
            return Verb.MISUSE;
        } catch (ConditionException e) {
            console.note("graphema: in the condition, " + e.getMessage());
            return Verb.MISUSE;
        } catch (NoSuchFileException e) {
            console.note("graphema: there is no file or folder " + e.getMessage() + "; check the path");
            return Verb.MISUSE;
        } catch (SettingsException e) {
            console.note("graphema: the settings cannot be used:\n" + e.getMessage());
            return Verb.MISUSE;
        } catch (IOException e) {
            console.note("graphema: " + e.getMessage());
            return Verb.FAILURE;
        } catch (OutOfMemoryError e) {
            console.note("graphema: there is not enough memory; narrow the window, or give the JVM more: -Xmx1g in"
                    + " JDK_JAVA_OPTIONS");
            return Verb.FAILURE;
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            console.note("graphema: interrupted");
            return Verb.NOTHING;
        }
    }

    private static int misused(Console console, String message, String verb) {
        console.note("graphema: " + message);
        console.note("See: " + console.command() + " " + verb + "--help");
        return Verb.MISUSE;
    }

    /**
     * Returns the command with this name, or null. Only its class is loaded, because loading all would take longer than
     * most searches.
     */
    private static Verb verb(String name) {
        return switch (name) {
            case "around" -> new AroundVerb();
            case "backup" -> new BackupVerb();
            case "check" -> new CheckVerb();
            case "collect" -> new CollectVerb();
            case "compare" -> new CompareVerb();
            case "completion" -> new CompletionVerb(Main::all);
            case "contrast" -> new ContrastVerb();
            case "explain" -> new ExplainVerb();
            case "faults" -> new FaultsVerb();
            case "fields" -> new FieldsVerb();
            case "find" -> new FindVerb();
            case "forget" -> new ForgetVerb();
            case "keep" -> new KeepVerb(Main::run);
            case "overview" -> new OverviewVerb();
            case "page" -> new PageVerb();
            case "redact" -> new RedactVerb();
            case "segment" -> new SegmentVerb();
            case "shape" -> new ShapeVerb();
            case "store" -> new StoreVerb();
            case "tally" -> new TallyVerb();
            case "tidy" -> new TidyVerb();
            case "timeline" -> new TimelineVerb();
            case "token" -> new TokenVerb();
            case "trail" -> new TrailVerb();
            case "watch" -> new WatchVerb();
            default ->
                others().filter(other -> other.name().equals(name)).findFirst().orElse(null);
        };
    }

    /** Returns the commands of other modules. */
    private static Stream<Verb> others() {
        return ServiceLoader.load(Verb.class).stream().map(ServiceLoader.Provider::get);
    }

    /** Returns the version of the jar; "development" of classes that are in none. */
    private static String version() {
        String version = Main.class.getPackage().getImplementationVersion();
        return version == null ? "development" : version;
    }

    private static List<Verb> all() {
        return names().stream().map(Main::verb).toList();
    }

    private static List<String> names() {
        return Stream.concat(OWN.stream(), others().map(Verb::name)).toList();
    }

    private static void overview(Console console) {
        Help help = new Help(console.paint(), console.textWidth())
                .heading("Usage: graphema VERB [ARGUMENTS]")
                .paragraph("Finds structured log events, and follows one request through all services.")
                .gap()
                .heading("Verbs:");
        int column = Help.widest(names().stream());
        for (String name : names()) {
            help.term(name, column, verb(name).purpose());
        }
        help.gap()
                .line("graphema VERB --help shows details and examples; graphema --version shows the version.")
                .line("Exit codes: 0 success, 1 nothing found, 2 invalid command, or something could not be read.");
        console.print(help.toBuffer());
    }
}
