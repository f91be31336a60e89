package dev.graphema.event;

import java.math.BigDecimal;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Collections;
import java.util.Deque;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** Converts fields into unmodifiable maps, lists and boxed values. */
final class BoxedFields implements FieldVisitor {
    private final Map<String, Object> top = new LinkedHashMap<>();
    private final Deque<Object> open = new ArrayDeque<>();

    /** Returns all visited fields. */
    Map<String, Object> all() {
        return Collections.unmodifiableMap(top);
    }

    /** Returns the first visited value, or null. */
    Object first() {
        return top.isEmpty() ? null : top.values().iterator().next();
    }

    @Override
    public void text(String name, String value) {
        add(name, value);
    }

    @Override
    public void integer(String name, long value) {
        add(name, value);
    }

    @Override
    public void real(String name, double value) {
        add(name, value);
    }

    @Override
    public void decimal(String name, BigDecimal value) {
        add(name, value);
    }

    @Override
    public void bool(String name, boolean value) {
        add(name, value);
    }

    @Override
    public void time(String name, Instant value) {
        add(name, value);
    }

    @Override
    public void duration(String name, Duration value) {
        add(name, value);
    }

    @Override
    public void nothing(String name) {
        add(name, null);
    }

    @Override
    public void beginGroup(String name) {
        Map<String, Object> group = new LinkedHashMap<>();
        add(name, Collections.unmodifiableMap(group));
        open.push(group);
    }

    @Override
    public void endGroup() {
        open.pop();
    }

    @Override
    public void beginList(String name) {
        List<Object> list = new ArrayList<>();
        add(name, Collections.unmodifiableList(list));
        open.push(list);
    }

    @Override
    public void endList() {
        open.pop();
    }

    @SuppressWarnings("unchecked") // what is open was opened above
    private void add(String name, Object value) {
        Object into = open.isEmpty() ? top : open.peek();
        if (into instanceof List<?> list) {
            ((List<Object>) list).add(value);
        } else {
            ((Map<String, Object>) into).put(name, value);
        }
    }
}
