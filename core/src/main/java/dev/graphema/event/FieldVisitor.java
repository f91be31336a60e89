package dev.graphema.event;

import java.math.BigDecimal;
import java.time.Duration;
import java.time.Instant;

/**
 * Receives the fields of an event in order, with a method for each type, so that formats neither box values nor test
 * types. The name is null for items of a list. Calls that begin and end a group or list are paired.
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
