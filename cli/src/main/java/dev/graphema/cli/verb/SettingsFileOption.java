package dev.graphema.cli.verb;

import dev.graphema.cli.arguments.Argument;
import dev.graphema.cli.arguments.Group;
import dev.graphema.cli.arguments.MisuseException;
import dev.graphema.settings.Settings;
import dev.graphema.settings.SettingsSource;
import java.io.IOException;
import java.nio.file.Path;
import java.util.Optional;

/** The option for the settings file. */
final class SettingsFileOption {
    private final Argument<Path> file;
    private final Argument<String> profile;
    private final LibrariesOption libraries;

    SettingsFileOption(Group options) {
        file = options.path(
                "--settings",
                "FILE",
                "The settings file. Default: the one that GRAPHEMA_SETTINGS names, as for a program.");
        profile = options.text(
                "--profile", "NAME", "The active profile. Default: the one that GRAPHEMA_PROFILE or the file names.");
        libraries = new LibrariesOption(options);
    }

    /** Returns the name of the settings in sentences. */
    String name() {
        return source().map(SettingsSource::toString).orElse("the defaults");
    }

    Settings read() throws IOException, MisuseException {
        libraries.load();
        Optional<SettingsSource> source = source();
        if (source.isEmpty()) {
            return Settings.builder().build();
        }
        return profile.isGiven()
                ? source.get().read(profile.value())
                : source.get().read();
    }

    private Optional<SettingsSource> source() {
        return file.isGiven() ? Optional.of(SettingsSource.of(file.value())) : SettingsSource.find();
    }
}
