package dev.graphema.cli.store;

import dev.graphema.cli.arguments.Argument;
import dev.graphema.cli.arguments.MisuseException;
import dev.graphema.cli.output.Counted;
import dev.graphema.cli.verb.Verb;
import dev.graphema.segments.store.StoreBackup;
import java.io.IOException;
import java.nio.file.Path;

/** Copies a store. */
public final class BackupVerb extends Verb {
    private final Argument<Path> in = own().path("--in", "DIR", "The folder of the store.");
    private final Argument<Path> to = own().path("--to", "DIR", "The folder of the copy, which is created.");

    public BackupVerb() {
        super("backup", "Copies a store, also while it is written.");
    }

    @Override
    protected String details() {
        return "The copy has all events that were stored when it began, the rules, and what belongs to a collector. If it is"
                + " repeated, only what is new is copied. The copy is a store, too: to restore it, name its folder instead, or"
                + " copy it back.";
    }

    @Override
    protected String examples() {
        return """
                graphema backup --in store --to /backup/store
                graphema find 'level >= error' --in /backup/store
                graphema collect --store /backup/store
                """;
    }

    @Override
    public int call() throws IOException, MisuseException {
        Path folder = TidyVerb.storeIn(in);
        if (!to.isGiven()) {
            throw new MisuseException("there is no folder for the copy given: expected --to and its folder");
        }
        if (to.value()
                .toAbsolutePath()
                .normalize()
                .startsWith(folder.toAbsolutePath().normalize())) {
            throw new MisuseException("--to " + to.value() + " is in the store itself: expected a folder elsewhere");
        }
        StoreBackup.Copied copied = StoreBackup.copy(folder, to.value());
        console()
                .print(Counted.of(copied.files(), "file") + " copied (" + Counted.size(copied.bytes()) + "); "
                        + to.value() + " is complete");
        return 0;
    }
}
