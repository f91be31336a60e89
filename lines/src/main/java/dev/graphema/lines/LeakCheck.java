package dev.graphema.lines;

import dev.graphema.event.Event;
import dev.graphema.event.Failure;
import dev.graphema.event.FieldVisitor;
import dev.graphema.lines.form.JsonLine;
import dev.graphema.lines.form.UnreadableLineException;
import dev.graphema.lines.json.LinePrefix;
import dev.graphema.lines.json.LineReader;
import dev.graphema.query.source.ReadErrors;
import dev.graphema.redaction.Redactor;
import java.io.IOException;
import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Collections;
import java.util.Deque;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/** Searches written logs for unredacted secrets. Reports positions, never values. */
public final class LeakCheck {
    private static final int MOST_PLACES = 5;

    private final Redactor redactor;
    private final Map<String, Leak> leaks = new TreeMap<>();
    private final Texts texts = new Texts();
    private long lines;
    private String place;

    private LeakCheck(Redactor redactor) {
        this.redactor = redactor;
    }

    /**
     * Leaks of one kind in one part of events.
     *
     * @param rule the rule that found them
     * @param key {@code message}, {@code thread}, {@code failure.message}, the path of a field, or {@code line} for a
     *     line that is not an event
     * @param count their number
     * @param places the first ones: file and line
     */
    public record Leak(String rule, String key, long count, List<String> places) {}

    /**
     * The result.
     *
     * @param leaks by rule and key, the most frequent first
     * @param lines the number of lines
     * @param failures the files that could not be read completely, with reasons
     */
    public record Result(List<Leak> leaks, long lines, List<String> failures) {}

    /** Reads all lines of all files. An unreadable file does not affect the others. */
    public static Result of(List<Path> files, Redactor redactor) {
        LeakCheck check = new LeakCheck(redactor);
        List<String> failures = new ArrayList<>();
        for (Path file : files) {
            try {
                check.read(file);
            } catch (IOException e) {
                failures.add(file + ": cannot be read on: " + ReadErrors.of(e));
            }
        }
        List<Leak> leaks = new ArrayList<>(check.leaks.values());
        leaks.sort((one, other) -> Long.compare(other.count(), one.count()));
        return new Result(leaks, check.lines, failures);
    }

    private void read(Path file) throws IOException {
        JsonLine reader = new JsonLine();
        try (LineReader line = new LineReader(Decompression.of(file))) {
            while (line.next()) {
                lines++;
                place = file + ":" + line.number();
                try {
                    boolean isOwn = LinePrefix.isOwn(line.bytes(), line.start(), line.end());
                    event(reader.read(line.bytes(), line.start(), line.end(), 0, isOwn));
                    if (reader.damage() != null) {
                        text("line", line); // what is behind the damage is in no event
                    }
                } catch (UnreadableLineException e) {
                    text("line", line);
                }
            }
        }
    }

    private void text(String key, LineReader line) {
        text(key, new String(line.bytes(), line.start(), line.end() - line.start(), StandardCharsets.UTF_8));
    }

    private void event(Event event) {
        text("message", event.message());
        text("thread", event.thread());
        texts.path.clear();
        event.fields().visit(texts);
        for (Failure failure = event.failure(); failure != null; failure = failure.cause()) {
            text("failure.message", failure.message());
            failure.suppressed().forEach(each -> text("failure.message", each.message()));
        }
    }

    private void text(String key, String text) {
        if (text != null) {
            redactor.redact(
                    text,
                    hit -> leaks.merge(
                            hit.rule() + " " + key, new Leak(hit.rule(), key, 1, List.of(place)), LeakCheck::plus));
        }
    }

    private static Leak plus(Leak one, Leak other) {
        List<String> places = new ArrayList<>(one.places());
        if (places.size() < MOST_PLACES && !places.contains(other.places().get(0))) {
            places.addAll(other.places());
        }
        return new Leak(one.rule(), one.key(), one.count() + other.count(), Collections.unmodifiableList(places));
    }

    /** Receives names and values with their paths. */
    private final class Texts implements FieldVisitor {
        private final Deque<String> path = new ArrayDeque<>();

        private void value(String name, Object value) {
            String here = name == null || path.isEmpty()
                    ? String.valueOf(name == null ? path.peekLast() : name)
                    : path.peekLast() + "." + name;
            LeakCheck.this.text(here, value.toString());
            name(name);
        }

        /** A name may be a secret itself; then it is not used as key. */
        private void name(String name) {
            if (name != null) {
                LeakCheck.this.text("(a field's name)", name);
            }
        }

        private void begin(String name) {
            name(name);
            String outer = path.isEmpty() ? "" : path.peekLast();
            path.addLast(name == null ? outer : outer.isEmpty() ? name : outer + "." + name);
        }

        @Override
        public void text(String name, String value) {
            value(name, value);
        }

        @Override
        public void integer(String name, long value) {
            value(name, value);
        }

        @Override
        public void real(String name, double value) {
            value(name, new BigDecimal(Double.isFinite(value) ? value : 0).toPlainString());
        }

        @Override
        public void decimal(String name, BigDecimal value) {
            value(name, value.toString());
        }

        @Override
        public void bool(String name, boolean value) {
            name(name);
        }

        @Override
        public void time(String name, Instant value) {
            name(name);
        }

        @Override
        public void duration(String name, Duration value) {
            name(name);
        }

        @Override
        public void nothing(String name) {
            name(name);
        }

        @Override
        public void beginGroup(String name) {
            begin(name);
        }

        @Override
        public void endGroup() {
            path.removeLast();
        }

        @Override
        public void beginList(String name) {
            begin(name);
        }

        @Override
        public void endList() {
            path.removeLast();
        }
    }
}
