package dev.graphema.collector.access;

/** What the owner of a token may do. */
public enum Role {
    /** Send events, and nothing else. */
    SEND,
    /** Ask questions, and nothing else. */
    READ,
    /** See the measurements of the collector, and nothing else. */
    MEASURE,
    /** Ask questions about all events, change tokens, see the measurements, and who asks what. */
    ADMINISTER;

    /** Returns whether whoever has this role may do what the other one may. */
    public boolean includes(Role other) {
        return this == other || this == ADMINISTER && (other == READ || other == MEASURE);
    }
}
