package dev.graphema;

import dev.graphema.event.FieldWriter;
import dev.graphema.event.Fields;
import java.util.function.Consumer;

/**
 * Fields said once, at the edge of the program, and carried by every event that is said below, in code that has never
 * heard of them:
 *
 * <pre>{@code
 * try (Scope scope = Context.open(f -> f.put("booking", reference))) {
 *     desk.confirm();
 * }
 * }</pre>
 *
 * <p>An event's own field hides one of the context, and an inner scope's one of an outer, where the names are the same.
 */
public final class Context {
    private Context() {}

    /** Adds fields to every event that this thread says until the scope is closed. */
    public static Scope open(Consumer<? super FieldWriter> fields) {
        return Surroundings.here().open(Fields.of(fields), null);
    }
}
