package dev.graphema.format;

import dev.graphema.event.Decimals;
import dev.graphema.event.Durations;
import dev.graphema.event.FieldVisitor;
import dev.graphema.event.Fields;
import java.math.BigDecimal;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.List;

/**
 * Fields as {@code name=value} pairs for people. Groups are told by dotted names. A text is quoted when it could be read
 * as more than one value; nothing in it can break the line or steer a terminal.
 */
public final class FieldText implements FieldVisitor {
    /** One field as it is shown. */
    public record Pair(String name, String value) {
        /** The number of characters that {@code name=value} takes. */
        int width() {
            return name.length() + 1 + value.length();
        }
    }

    private final List<Pair> pairs = new ArrayList<>();
    private final Deque<String> groups = new ArrayDeque<>();
    private StringBuilder list;
    private int listDepth;

    private FieldText() {}

    public static List<Pair> of(Fields fields) {
        FieldText text = new FieldText();
        fields.visit(text);
        return text.pairs;
    }

    /** A text as it stands behind {@code name=}: quoted when it needs to be, and harmless. */
    public static String quoted(String value) {
        String harmless = Escapes.visible(value);
        boolean plain = !harmless.isEmpty();
        for (int i = 0; i < harmless.length() && plain; i++) {
            char c = harmless.charAt(i);
            plain = c != ' ' && c != '"' && c != '=' && c != ',' && c != '[' && c != ']' && c != '{' && c != '}';
        }
        return plain ? harmless : '"' + harmless.replace("\"", "\\\"") + '"';
    }

    @Override
    public void text(String name, String value) {
        add(name, quoted(value));
    }

    @Override
    public void integer(String name, long value) {
        add(name, Long.toString(value));
    }

    @Override
    public void real(String name, double value) {
        add(name, Double.toString(value));
    }

    @Override
    public void decimal(String name, BigDecimal value) {
        add(name, Decimals.text(value));
    }

    @Override
    public void bool(String name, boolean value) {
        add(name, Boolean.toString(value));
    }

    @Override
    public void time(String name, Instant value) {
        add(name, value.toString());
    }

    @Override
    public void duration(String name, Duration value) {
        add(name, Durations.text(value).replace(" ", ""));
    }

    @Override
    public void nothing(String name) {
        add(name, "null");
    }

    @Override
    public void beginGroup(String name) {
        if (list != null) {
            open('{');
        } else {
            groups.addLast(name);
        }
    }

    @Override
    public void endGroup() {
        if (list != null) {
            close('}');
        } else {
            groups.removeLast();
        }
    }

    @Override
    public void beginList(String name) {
        if (list == null) {
            list = new StringBuilder();
            groups.addLast(name);
        }
        open('[');
    }

    @Override
    public void endList() {
        close(']');
        if (listDepth == 0) {
            String value = list.toString();
            list = null;
            add(groups.removeLast(), value);
        }
    }

    private void open(char bracket) {
        separate();
        list.append(bracket);
        listDepth++;
    }

    private void close(char bracket) {
        list.append(bracket);
        listDepth--;
    }

    private void separate() {
        char last = list.length() == 0 ? '[' : list.charAt(list.length() - 1);
        if (last != '[' && last != '{') {
            list.append(", ");
        }
    }

    private void add(String name, String value) {
        if (list != null) {
            separate();
            list.append(name == null ? value : Escapes.visible(name) + "=" + value);
            return;
        }
        StringBuilder path = new StringBuilder();
        for (String group : groups) {
            path.append(group).append('.');
        }
        pairs.add(new Pair(Escapes.visible(path.append(name).toString()), value));
    }
}
