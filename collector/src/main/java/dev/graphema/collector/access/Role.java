package dev.graphema.collector.access;

/** What the owner of a token may do. */
public enum Role {
    /** Send events, and nothing else. */
    SEND,
    /** Ask questions, and nothing else. */
    READ
}
