package dev.graphema.query.answer;

/** The answer to a question: an immutable value that states what was read for it. */
public sealed interface Answer
        permits FoundEvents,
                CountTable,
                Timeline,
                TimeMap,
                Trails,
                FailureKinds,
                Differences,
                EventContext,
                FieldCatalogue,
                FieldValues {
    /** Returns what was read, what was skipped, and why the answer may be incomplete. */
    Coverage coverage();
}
