package dev.graphema.query.contract;

/**
 * The tests that every source passes: every kind of question has the same answer over the same events, wherever they are. A
 * test class for a source extends this and creates the source.
 */
public abstract class SourceContract
        implements EventsContract, CountsContract, TimelineContract, TrailContract, FailuresContract {}
