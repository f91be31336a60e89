package dev.graphema.cli.store;

import dev.graphema.cli.arguments.Argument;
import dev.graphema.cli.arguments.MisuseException;
import dev.graphema.cli.output.Counted;
import dev.graphema.cli.verb.Verb;
import dev.graphema.redaction.Pseudonyms;
import dev.graphema.segments.store.Store;
import dev.graphema.segments.store.StoreOptions;
import dev.graphema.settings.SettingsSource;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;

/** Deletes the events of a person from a store. */
public final class ForgetVerb extends Verb {
    private final Argument<String> text =
            own().word("TEXT", "The text that identifies the person, in upper and lower case as in the events.");
    private final Argument<Path> in = own().path("--in", "DIR", "The folder of the store.");
    private final Argument<Path> redactedBy = own().path(
                    "--redacted-by",
                    "FILE",
                    "The settings with which the events were redacted, with the same key in the environment: events with the"
                            + " pseudonym of the text are deleted, too.");
    private final Argument<Boolean> yes = own().flag("--yes", "Delete them; otherwise, they are only counted.");

    public ForgetVerb() {
        super("forget", "Deletes the events of a store that contain a text.");
    }

    @Override
    protected String details() {
        return "For the data of one person: the text is a name, an address, a number. Afterwards, all files of the store are searched for the text, and the command fails if one contains it. What the"
                + " disk itself, copies and backups still have is not known to it.";
    }

    @Override
    protected String examples() {
        return """
                graphema forget mara.lind@example.org --in store
                graphema forget mara.lind@example.org --in store --redacted-by graphema.yaml --yes
                """;
    }

    @Override
    public int call() throws IOException, MisuseException {
        Path folder = TidyVerb.storeIn(in);
        List<String> texts = new ArrayList<>(List.of(text.value()));
        if (redactedBy.isGiven()) {
            Pseudonyms pseudonyms =
                    SettingsSource.of(redactedBy.value()).read().redaction().pseudonyms();
            if (pseudonyms == null) {
                throw new MisuseException(redactedBy.value()
                        + " has no key for pseudonyms: expected redaction: pseudonyms: key, or no --redacted-by");
            }
            texts.add(pseudonyms.treat(text.value(), ""));
        }
        long lines = 0;
        try (Store store = Store.open(folder, StoreOptions.usual(console()::note))) {
            for (String each : texts) {
                lines += yes.value() ? store.forget(each) : store.containing(each);
            }
        } catch (IllegalArgumentException e) {
            throw new MisuseException(e.getMessage());
        }
        if (lines == 0) {
            console().print("no line of " + folder + " contains it");
        } else if (yes.value()) {
            console().print(Counted.of(lines, "line") + " deleted; the text is in no file of " + folder + " any more");
        } else {
            console().print(Counted.of(lines, "line") + (lines == 1 ? " contains it" : " contain it"));
            console().note("nothing is deleted yet: add --yes to delete them for good");
        }
        return lines == 0 ? NOTHING : 0;
    }
}
