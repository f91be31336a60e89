package dev.graphema.collector.audit;

import dev.graphema.collector.http.Call;
import dev.graphema.collector.permission.Caller;
import dev.graphema.event.Draft;
import dev.graphema.event.FieldWriter;
import dev.graphema.event.Level;
import dev.graphema.format.JsonLines;
import dev.graphema.segments.store.Store;
import dev.graphema.segments.store.StoreOptions;
import dev.graphema.segments.store.StoreSource;
import dev.graphema.text.Times;
import dev.graphema.text.Utf8Buffer;
import java.io.Closeable;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.file.Path;
import java.util.concurrent.atomic.AtomicLong;
import java.util.function.Consumer;

/**
 * What callers do, as events in a store of its own in the folder {@value #FOLDER} of the store, which only administrators can ask. An
 * event is on the disk before anything is answered. Thread-safe.
 */
public final class Audit implements Recorder, Closeable {
    /** The folder in that of the store. */
    public static final String FOLDER = "audit";

    private static final String ANYBODY = "anybody on this machine";

    private final Path folder;
    private final Store store;
    private final Consumer<String> problems;
    private final AtomicLong sequence = new AtomicLong();

    /**
     * @param store the folder of the store
     * @param problems receives what the operator should know
     */
    public Audit(Path store, Consumer<String> problems) throws IOException {
        this.folder = store.resolve(FOLDER);
        this.store = Store.open(folder, StoreOptions.usual(problems));
        this.problems = problems;
    }

    /** Returns the events. */
    public StoreSource source() throws IOException {
        return StoreSource.at(folder);
    }

    @Override
    public void record(String what, Caller caller, Call call, Consumer<FieldWriter> fields) {
        record(Level.INFO, what, to -> {
            to.put("caller", caller.name() == null ? ANYBODY : caller.name());
            to.put("address", call.address());
            fields.accept(to);
        });
    }

    /** Records a change that the collector makes on its own. */
    public void record(Level level, String what, Consumer<FieldWriter> fields) {
        Draft draft = new Draft()
                .time(Times.now())
                .level(level)
                .service("collector")
                .logger("collector.audit")
                .message(what)
                .thread(Thread.currentThread().getName())
                .sequence(sequence.incrementAndGet())
                .fields(fields);
        Utf8Buffer line = new Utf8Buffer(256);
        new JsonLines().write(draft.finish(), line);
        ByteBuffer view = line.view();
        byte[] bytes = new byte[view.remaining()];
        view.get(bytes);
        try {
            store.append(bytes);
        } catch (IOException e) {
            problems.accept("\"" + what + "\" is not in the audit trail: " + e.getMessage());
        }
    }

    @Override
    public void close() throws IOException {
        store.close();
    }
}
