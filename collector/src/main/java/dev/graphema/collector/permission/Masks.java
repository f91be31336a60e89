package dev.graphema.collector.permission;

import dev.graphema.collector.access.Token;
import dev.graphema.event.Draft;
import dev.graphema.event.Event;
import dev.graphema.redaction.KeyRules;
import dev.graphema.redaction.Pseudonyms;
import dev.graphema.redaction.Redactor;
import dev.graphema.redaction.Treatment;
import java.io.IOException;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.nio.file.attribute.PosixFilePermissions;
import java.security.SecureRandom;
import java.util.Base64;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.UnaryOperator;

/** What readers do not see of events: fields that are hidden, or of which they see pseudonyms. Thread-safe. */
final class Masks {
    private static final String FILE = "pseudonyms.key";
    private static final String KEY_ID = "c1";
    private static final int KEY_BYTES = 32;

    private final Path file;
    private Pseudonyms pseudonyms;

    /** @param store the folder of the store, in which the key for pseudonyms is created when it is needed */
    Masks(Path store) {
        this.file = store.resolve(FILE);
    }

    /**
     * Returns the mask of a reader; null if the reader sees all fields.
     *
     * @throws IOException if the key cannot be read or created
     */
    UnaryOperator<Event> of(Token token) throws IOException {
        if (token.hidden().isEmpty() && token.pseudonyms().isEmpty()) {
            return null;
        }
        Map<String, Treatment> treatments = new LinkedHashMap<>();
        token.hidden().forEach(name -> treatments.put(name, Treatment.REMOVE));
        if (!token.pseudonyms().isEmpty()) {
            Pseudonyms instead = pseudonyms();
            token.pseudonyms().forEach(name -> treatments.put(name, instead));
        }
        Redactor redactor = new Redactor(List.of(), KeyRules.of(treatments), Map.of());
        return event -> {
            Draft draft = Draft.copyOf(event, event.fields());
            redactor.redact(draft);
            return draft.finish();
        };
    }

    private synchronized Pseudonyms pseudonyms() throws IOException {
        if (pseudonyms == null) {
            if (!Files.exists(file)) {
                create();
            }
            pseudonyms = Pseudonyms.of(KEY_ID, Files.readString(file).strip());
        }
        return pseudonyms;
    }

    private void create() throws IOException {
        byte[] random = new byte[KEY_BYTES];
        new SecureRandom().nextBytes(random);
        try {
            if (file.getFileSystem().supportedFileAttributeViews().contains("posix")) {
                Files.createFile(
                        file, PosixFilePermissions.asFileAttribute(PosixFilePermissions.fromString("rw-------")));
            } else {
                Files.createFile(file);
            }
        } catch (FileAlreadyExistsException e) {
            return; // another process was faster
        }
        Files.writeString(file, Base64.getEncoder().encodeToString(random), StandardOpenOption.WRITE);
    }
}
