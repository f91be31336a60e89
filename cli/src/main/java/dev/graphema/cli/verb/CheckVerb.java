package dev.graphema.cli.verb;

import dev.graphema.cli.arguments.Argument;
import dev.graphema.cli.arguments.MisuseException;
import dev.graphema.cli.output.Counted;
import dev.graphema.explain.Review;
import dev.graphema.settings.Settings;
import dev.graphema.settings.SettingsException;
import dev.graphema.settings.SettingsSchema;
import dev.graphema.settings.SettingsSource;
import java.io.IOException;
import java.nio.file.Path;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;

/** Reports errors in a settings file. */
public final class CheckVerb extends Verb {
    private final Argument<Path> file = own().optionalWord("FILE", null, Path::of, "The settings file, in YAML.");
    private final LibrariesOption libraries = new LibrariesOption(own());
    private final Argument<Boolean> schema = own().flag("--schema", "Print the JSON Schema of settings files.");

    public CheckVerb() {
        super("check", "Reports errors in a settings file.");
    }

    @Override
    protected String details() {
        return "Reads the file, its includes and each of its profiles, and reports every error with its position and the"
                + " expected input. Then reports settings without effect: routes that never match, sinks without events."
                + " Nothing is opened or started. Exit code 0 if the file is valid, 1 if a setting has no effect, 2 if there"
                + " is an error.";
    }

    @Override
    protected String examples() {
        return """
                graphema check graphema.yaml
                HOSTNAME=deck-1 graphema check settings/deck.yaml

                By this, an editor completes and checks the file:
                graphema check --schema > graphema.schema.json
                """;
    }

    @Override
    public int call() throws IOException, MisuseException {
        libraries.load();
        if (schema.value()) {
            console().print(SettingsSchema.json().stripTrailing());
            return 0;
        }
        if (!file.isGiven()) {
            throw new MisuseException("check needs a settings file, or --schema");
        }
        SettingsSource source = SettingsSource.of(file.value());
        // A problem can occur in several profiles: it is reported once.
        Set<String> mistakes = new LinkedHashSet<>();
        Set<String> findings = new LinkedHashSet<>();
        Settings plain = read(source, null, mistakes, findings);
        List<String> profiles = mistakes.isEmpty() ? source.profiles() : List.of();
        for (String profile : profiles) {
            read(source, profile, mistakes, findings);
        }
        if (!mistakes.isEmpty()) {
            mistakes.forEach(console()::note);
            console().note(Counted.of(mistakes.size(), "mistake"));
            return MISUSE;
        }
        findings.forEach(console()::print);
        console()
                .print(file.value() + ": no errors; "
                        + Counted.of(plain.sinks().size(), "sink") + ", "
                        + Counted.of(plain.routes().size(), "route") + ", "
                        + Counted.of(plain.sampling().size(), "sampling rule")
                        + (profiles.isEmpty() ? "" : ", profiles " + String.join(", ", profiles))
                        + (findings.isEmpty() ? "" : "; " + Counted.of(findings.size(), "finding")));
        return findings.isEmpty() ? 0 : NOTHING;
    }

    private static Settings read(SettingsSource source, String profile, Set<String> mistakes, Set<String> findings)
            throws IOException {
        try {
            Settings settings = profile == null ? source.read() : source.read(profile);
            Review.of(settings)
                    .forEach(finding ->
                            findings.add(finding + (profile == null ? "" : " (with the profile " + profile + ")")));
            return settings;
        } catch (SettingsException e) {
            e.problems().forEach(problem -> mistakes.add(problem.toString()));
            return null;
        }
    }
}
