package skerry.service;

import java.io.IOException;
import java.net.URI;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;

/** Where the services of one run find one another: a folder with a file for each, which holds its port. */
public final class Harbour {
    private final Path folder;

    public Harbour(Path folder) {
        this.folder = folder;
    }

    /** Tells the others on which port of the loopback address an instance serves. */
    public void announce(String instance, int port) throws IOException {
        Files.createDirectories(folder);
        Path draft = folder.resolve(instance + ".draft");
        Files.writeString(draft, Integer.toString(port));
        Files.move(draft, file(instance), StandardCopyOption.ATOMIC_MOVE);
    }

    /** Whether the instance has announced itself. */
    public boolean has(String instance) {
        return Files.exists(file(instance));
    }

    /** Forgets an instance that was stopped. */
    public void forget(String instance) throws IOException {
        Files.deleteIfExists(file(instance));
    }

    /** The address of something that the instance serves. */
    public URI address(String instance, String path) throws IOException {
        try {
            return URI.create(
                    "http://127.0.0.1:" + Files.readString(file(instance)).strip() + path);
        } catch (NoSuchFileException e) {
            throw new IOException("no instance " + instance + " is running", e);
        }
    }

    private Path file(String instance) {
        return folder.resolve(instance + ".port");
    }
}
