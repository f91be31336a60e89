package dev.graphema.event;

import java.math.BigDecimal;
import java.time.Duration;
import java.time.Instant;

/**
 * Receives the fields of an event in order, each by a method for its type, so that a format need not box or test types.
 * The name is null for the items of a list. Begin and end calls are always paired.
 */
public interface FieldVisitor {
    void text(String name, String value);

    void integer(String name, long value);

    void real(String name, double value);

    void decimal(String name, BigDecimal value);

    void bool(String name, boolean value);

    void time(String name, Instant value);

    void duration(String name, Duration value);

    void nothing(String name);

    void beginGroup(String name);

    void endGroup();

    void beginList(String name);

    void endList();
}
