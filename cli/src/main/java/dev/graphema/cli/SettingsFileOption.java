package dev.graphema.cli;

import dev.graphema.settings.Settings;
import dev.graphema.settings.SettingsSource;
import java.io.IOException;
import java.nio.file.Path;
import java.util.Optional;
import picocli.CommandLine.Option;

/** Which settings a verb looks at. */
final class SettingsFileOption {
    @Option(
            names = "--settings",
            paramLabel = "FILE",
            description = "The settings file. Default: the one that GRAPHEMA_SETTINGS names, as for a program.")
    private Path file;

    @Option(
            names = "--profile",
            paramLabel = "NAME",
            description = "The profile that is laid over it. Default: the one that GRAPHEMA_PROFILE or the file names.")
    private String profile;

    /** What a sentence calls the settings. */
    String name() {
        return source().map(SettingsSource::toString).orElse("the defaults");
    }

    Settings read() throws IOException {
        Optional<SettingsSource> source = source();
        if (source.isEmpty()) {
            return Settings.builder().build();
        }
        return profile == null ? source.get().read() : source.get().read(profile);
    }

    private Optional<SettingsSource> source() {
        return file == null ? SettingsSource.find() : Optional.of(SettingsSource.of(file));
    }
}
