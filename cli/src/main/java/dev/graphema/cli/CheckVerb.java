package dev.graphema.cli;

import dev.graphema.settings.Problem;
import dev.graphema.settings.Settings;
import dev.graphema.settings.SettingsException;
import dev.graphema.settings.SettingsFile;
import java.io.IOException;
import java.nio.file.Path;
import picocli.CommandLine.Command;
import picocli.CommandLine.Parameters;

/** Tells what is wrong with a settings file. */
@Command(
        name = "check",
        mixinStandardHelpOptions = true,
        synopsisHeading = "Usage: ",
        description = "Reads a settings file and tells every mistake with its place and what was expected. Nothing is"
                + " opened or started. Exit code 0 when there is none, 2 when there is.",
        footer = {
            "",
            "Examples:",
            "  graphema check graphema.yaml",
            "  HOSTNAME=deck-1 graphema check settings/deck.yaml"
        })
public final class CheckVerb extends Verb {
    @Parameters(paramLabel = "FILE", description = "The settings file, in YAML")
    private Path file;

    @Override
    public Integer call() throws IOException {
        try {
            Settings settings = SettingsFile.read(file);
            console()
                    .print(file + ": no mistakes; "
                            + Counted.of(settings.sinks().size(), "sink") + ", "
                            + Counted.of(settings.routes().size(), "route") + ", "
                            + Counted.of(settings.sampling().size(), "sampling rule"));
            return 0;
        } catch (SettingsException e) {
            for (Problem problem : e.problems()) {
                console().say(problem.toString());
            }
            console().say(Counted.of(e.problems().size(), "mistake"));
            return Main.MISUSE;
        }
    }
}
