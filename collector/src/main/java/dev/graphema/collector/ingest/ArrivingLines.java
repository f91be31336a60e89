package dev.graphema.collector.ingest;

import dev.graphema.collector.input.TopicRecord;
import dev.graphema.condition.Condition;
import dev.graphema.event.Draft;
import dev.graphema.event.Event;
import dev.graphema.event.Fields;
import dev.graphema.format.JsonLines;
import dev.graphema.lines.LineStream;
import dev.graphema.lines.shape.LineShape;
import dev.graphema.query.source.Following;
import dev.graphema.text.Times;
import dev.graphema.text.Utf8Buffer;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.util.List;

/**
 * Turns lines into those that are stored. A line of Graphema JSON gets the {@link Stamp}, usually without being read. All others are read
 * as in files and become Graphema JSON, with the time of arrival if they have none. A line that is damaged is kept unchanged. With
 * redaction, all lines are read. Thread-safe.
 */
public final class ArrivingLines {
    private final Redaction redaction;
    private final boolean isStamping;

    /** @param redaction null for none */
    public ArrivingLines(Redaction redaction, boolean isStamping) {
        this.redaction = redaction;
        this.isStamping = isStamping;
    }

    /** Returns the lines to store, each with its line feed. */
    byte[] stored(byte[] lines, Origin origin) {
        if (redaction == null && !isStamping && origin.place() == null) {
            return lines;
        }
        Rewriting rewriting = new Rewriting(origin);
        rewriting.add(lines);
        return rewriting.stored.toByteArray();
    }

    /** Returns the lines to store of records. An event without an id gets one that it also has when its record is read again. */
    byte[] storedOfRecords(List<TopicRecord> records, Origin origin) {
        Rewriting rewriting = new Rewriting(origin);
        for (TopicRecord each : records) {
            rewriting.ids = new RecordIds(each);
            rewriting.add(each.value());
        }
        return rewriting.stored.toByteArray();
    }

    /** Returns the lines to store of events that were read from another form. */
    byte[] stored(List<Event> events, Origin origin) {
        Rewriting rewriting = new Rewriting(origin);
        events.forEach(rewriting::write);
        return rewriting.stored.toByteArray();
    }

    /** What arrives together. For one thread. */
    private final class Rewriting {
        private final Origin origin;
        private final long arrived = Times.now();
        private final Stamp stamp;
        private final StampedLine stamped;
        private final ByteArrayOutputStream stored = new ByteArrayOutputStream();
        private final JsonLines format = new JsonLines(true);
        private final Utf8Buffer line = new Utf8Buffer(1024);

        /** The ids of events that have none; null if they need none. */
        private RecordIds ids;

        Rewriting(Origin origin) {
            this.origin = origin;
            stamp = isStamping || origin.place() != null ? new Stamp(origin, arrived) : null;
            stamped = stamp == null ? null : new StampedLine(stamp);
        }

        void add(byte[] lines) {
            if (redaction != null || Stamp.mayBeForged(new String(lines, StandardCharsets.ISO_8859_1))) {
                read(lines, 0, lines.length);
                return;
            }
            int from = 0;
            int othersFrom = 0;
            while (from < lines.length) {
                int end = from;
                while (end < lines.length && lines[end] != '\n') {
                    end++;
                }
                int next = Math.min(end + 1, lines.length);
                if (StampedLine.isOwn(lines, from, end)) {
                    read(lines, othersFrom, from);
                    own(lines, from, end);
                    othersFrom = next;
                }
                from = next;
            }
            read(lines, othersFrom, lines.length);
        }

        private void own(byte[] lines, int from, int end) {
            int last = end - 1;
            while (last > from && lines[last] <= ' ') {
                last--;
            }
            boolean isDamaged = lines[last] != '}';
            if (!isDamaged && ids != null && !RecordIds.hasId(lines, from, last)) {
                read(lines, from, end);
                return;
            }
            if (isDamaged || stamped == null) {
                stored.write(lines, from, end - from);
            } else if (!stamped.write(lines, from, last, stored)) {
                read(lines, from, end);
                return;
            }
            stored.write('\n');
        }

        private void read(byte[] lines, int from, int to) {
            if (from == to) {
                return;
            }
            LineStream stream = LineStream.uncompressed(
                    "request", new ByteArrayInputStream(lines, from, to - from), LineShape.USUAL);
            try (Following following = stream.follow(Condition.EVERYTHING)) {
                boolean goesOn = true;
                while (goesOn) {
                    goesOn = following.poll(new Following.Listener() {
                        @Override
                        public void event(Event event) {
                            write(event);
                        }

                        @Override
                        public void foreign(String text) {
                            notAnEvent(text);
                        }
                    });
                }
            } catch (IOException e) {
                throw new UncheckedIOException(e); // memory has no errors
            }
        }

        private void notAnEvent(String text) {
            if (stamp != null && !text.startsWith("{")) {
                write(identified(Draft.ofWritten().message(text).time(arrived)));
                return;
            }
            String kept = redaction == null ? text : redaction.redact(text, origin); // a damaged object
            stored.writeBytes(kept.getBytes(StandardCharsets.UTF_8));
            stored.write('\n');
        }

        private void write(Event event) {
            Fields fields =
                    stamp != null && Stamp.isForged(event.fields()) ? Stamp.renamed(event.fields()) : event.fields();
            write(identified(Draft.copyOf(event, fields).time(event.hasTime() ? event.epochNanos() : arrived)));
        }

        private Draft identified(Draft draft) {
            return ids == null || draft.id() != null
                    ? draft
                    : draft.run(ids.next()).sequence(Math.max(1, draft.sequence()));
        }

        private void write(Draft draft) {
            if (redaction != null) {
                redaction.redact(draft, origin);
            }
            if (stamp != null) {
                draft.fields(to -> to.put(Stamp.NAME, stamp.group()));
            }
            line.clear();
            format.write(draft.finish(), line);
            ByteBuffer bytes = line.view();
            byte[] written = new byte[bytes.remaining()];
            bytes.get(written);
            stored.writeBytes(written);
        }
    }
}
