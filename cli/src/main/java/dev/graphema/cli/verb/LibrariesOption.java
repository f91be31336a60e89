package dev.graphema.cli.verb;

import dev.graphema.cli.arguments.Argument;
import dev.graphema.cli.arguments.Group;
import dev.graphema.cli.arguments.MisuseException;
import dev.graphema.format.Formats;
import dev.graphema.redaction.Detectors;
import dev.graphema.sink.Sinks;
import java.io.IOException;
import java.net.URL;
import java.net.URLClassLoader;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.ServiceConfigurationError;
import java.util.stream.Stream;

/** The option for libraries that the command does not have: with custom kinds of sinks and formats, or the client of a broker. */
public final class LibrariesOption {
    private final Argument<List<String>> libraries;

    public LibrariesOption(Group options) {
        libraries = options.texts(
                "--with",
                "JAR|DIR",
                "A library with custom kinds of sinks, formats or detectors, or that such a library needs; or a folder with"
                        + " such libraries. May be given several times.");
    }

    /** Makes the kinds of the libraries known, and their services to this thread. */
    public void load() throws MisuseException {
        if (libraries.value().isEmpty()) {
            return;
        }
        List<URL> urls = new ArrayList<>();
        for (String library : libraries.value()) {
            try {
                for (Path file : files(library)) {
                    urls.add(file.toUri().toURL());
                }
            } catch (IOException e) {
                throw new MisuseException("the library " + library + " cannot be used: " + e.getMessage());
            }
        }
        try {
            // It stays open: the kinds load further classes when they are used.
            ClassLoader loader = new URLClassLoader(urls.toArray(new URL[0]), LibrariesOption.class.getClassLoader());
            Thread.currentThread().setContextClassLoader(loader);
            Sinks.kinds().addServices(loader);
            Formats.kinds().addServices(loader);
            Detectors.all().addServices(loader);
        } catch (ServiceConfigurationError e) {
            throw new MisuseException("the libraries after --with cannot be used: " + e.getMessage());
        }
    }

    private static List<Path> files(String library) throws IOException, MisuseException {
        Path file = Path.of(library);
        if (!Files.exists(file)) {
            throw new MisuseException("there is no library " + library + "; check the path after --with");
        }
        if (!Files.isDirectory(file)) {
            return List.of(file);
        }
        try (Stream<Path> all = Files.list(file)) {
            List<Path> jars = all.filter(each -> each.toString().endsWith(".jar"))
                    .sorted()
                    .toList();
            if (jars.isEmpty()) {
                throw new MisuseException("the folder " + library + " has no libraries; check the path after --with");
            }
            return jars;
        }
    }
}
