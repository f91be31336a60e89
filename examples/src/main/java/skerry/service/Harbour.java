package skerry.service;

import java.io.IOException;
import java.net.URI;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;

/** The addresses of the services of a run: a folder with a file for each, which contains its port. */
public final class Harbour {
    private final Path folder;

    public Harbour(Path folder) {
        this.folder = folder;
    }

    /** Publishes the port of an instance on the loopback address. */
    public void announce(String instance, int port) throws IOException {
        Files.createDirectories(folder);
        Path draft = folder.resolve(instance + ".draft");
        Files.writeString(draft, Integer.toString(port));
        Files.move(draft, file(instance), StandardCopyOption.ATOMIC_MOVE);
    }

    /** Returns whether the instance has published its port. */
    public boolean has(String instance) {
        return Files.exists(file(instance));
    }

    /** Removes an instance that was stopped. */
    public void forget(String instance) throws IOException {
        Files.deleteIfExists(file(instance));
    }

    /** Returns an address of the instance. */
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
