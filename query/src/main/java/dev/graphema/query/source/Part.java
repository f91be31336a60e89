package dev.graphema.query.source;

import dev.graphema.query.answer.Answer;
import dev.graphema.query.partial.Partial;
import java.io.IOException;

/** A part of a source, which is read independently of the others. */
public interface Part {
    /**
     * Returns the number of the unit, such as a file, to which the positions of the rows belong. Units order events of the
     * same time. Parts of the same unit have different positions.
     */
    default int unit() {
        return 0;
    }

    /** Returns how many units, from {@link #unit} on, the events have that the part adds to partial answers; usually one. */
    default int units() {
        return 1;
    }

    /**
     * Opens the rows. A part can be opened several times if the source is {@link
     * EventSource.Capability#REPEATED_READING repeatedly readable}.
     *
     * @param coverage receives what is read and what cannot be read
     * @throws IOException if the part cannot be read; the answer then states that its events are missing
     */
    Rows open(CoverageBuilder coverage) throws IOException;

    /**
     * Adds all events of the part to a partial answer without returning rows.
     *
     * @return false if the part must be read as rows instead, as by default
     */
    default <A extends Answer> boolean addTo(Partial<A> partial, CoverageBuilder coverage) throws IOException {
        return false;
    }

    /**
     * Returns what the source would ask another program to fill a partial answer, such as a statement in its language; empty, as by
     * default, if it reads on its own.
     */
    default String explain(Partial<?> partial) {
        return "";
    }

    /** Returns the name of the part in reports: the file, or the name of the source. */
    default String name() {
        return "events";
    }
}
