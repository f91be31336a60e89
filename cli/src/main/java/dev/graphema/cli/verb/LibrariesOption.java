package dev.graphema.cli.verb;

import dev.graphema.cli.arguments.Argument;
import dev.graphema.cli.arguments.Group;
import dev.graphema.cli.arguments.MisuseException;
import dev.graphema.format.Formats;
import dev.graphema.redaction.Detectors;
import dev.graphema.sink.Sinks;
import java.net.MalformedURLException;
import java.net.URL;
import java.net.URLClassLoader;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.ServiceConfigurationError;

/** The option for libraries with custom kinds of sinks and formats, and custom detectors. */
final class LibrariesOption {
    private final Argument<List<String>> libraries;

    LibrariesOption(Group options) {
        libraries = options.texts(
                "--with",
                "JAR",
                "A library with custom kinds of sinks, formats or detectors, or that such a library needs. May be given"
                        + " several times.");
    }

    /** Makes the kinds of the libraries known. */
    void load() throws MisuseException {
        if (libraries.value().isEmpty()) {
            return;
        }
        List<URL> urls = new ArrayList<>();
        for (String library : libraries.value()) {
            Path file = Path.of(library);
            if (!Files.exists(file)) {
                throw new MisuseException("there is no library " + library + "; check the path after --with");
            }
            try {
                urls.add(file.toUri().toURL());
            } catch (MalformedURLException e) {
                throw new MisuseException("the library " + library + " cannot be used: " + e.getMessage());
            }
        }
        try {
            // It stays open: the kinds load further classes when they are used.
            ClassLoader loader = new URLClassLoader(urls.toArray(new URL[0]), LibrariesOption.class.getClassLoader());
            Sinks.kinds().addServices(loader);
            Formats.kinds().addServices(loader);
            Detectors.all().addServices(loader);
        } catch (ServiceConfigurationError e) {
            throw new MisuseException("the libraries after --with cannot be used: " + e.getMessage());
        }
    }
}
