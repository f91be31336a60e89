package dev.graphema.cli.store;

import dev.graphema.cli.arguments.Argument;
import dev.graphema.cli.arguments.MisuseException;
import dev.graphema.cli.output.Counted;
import dev.graphema.cli.verb.Verb;
import dev.graphema.segments.store.Store;
import dev.graphema.segments.store.StoreOptions;
import dev.graphema.segments.store.StoreRules;
import dev.graphema.segments.store.StoreSource;
import java.io.IOException;
import java.nio.file.Path;

/** Applies the rules of a store now. */
public final class TidyVerb extends Verb {
    private final Argument<Path> in = own().path("--in", "DIR", "The folder of the store.");
    private boolean hasFailed;

    public TidyVerb() {
        super("tidy", "Deletes what the rules of a store do not keep.");
    }

    @Override
    protected String details() {
        return "It also seals the log and merges small segments. The rules are in the file " + StoreRules.FILE
                + " in the folder of the store. Every process that writes the store does the"
                + " same in the background. Each deletion is an event in the file deleted.jsonl there.";
    }

    @Override
    protected String examples() {
        return """
                graphema tidy --in store
                graphema find --in store/deleted.jsonl
                """;
    }

    @Override
    public int call() throws IOException, MisuseException {
        Path folder = storeIn(in);
        try (Store store = Store.open(folder, StoreOptions.usual(this::failed))) {
            store.tidy();
            Store.Contents contents = store.contents();
            console()
                    .print(Counted.of(contents.lines(), "line") + " in " + Counted.of(contents.segments(), "segment")
                            + " (" + Counted.size(contents.bytes()) + "); the rules have deleted "
                            + Counted.of(contents.deletedLines(), "line") + " now");
        }
        return 0;
    }

    private void failed(String problem) {
        hasFailed = true;
        console().note(problem);
    }

    /** Returns the folder of an option, which must be a store. */
    static Path storeIn(Argument<Path> option) throws MisuseException {
        if (!option.isGiven()) {
            throw new MisuseException("there is no store given: expected --in and its folder");
        }
        if (!StoreSource.isStore(option.value())) {
            throw new MisuseException(option.value() + " is no store: expected a folder that \"store --to\" has made");
        }
        return option.value();
    }

    @Override
    public boolean hasFailed() {
        return hasFailed;
    }
}
