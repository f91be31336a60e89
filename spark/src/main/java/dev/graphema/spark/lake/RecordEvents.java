package dev.graphema.spark.lake;

import dev.graphema.condition.Condition;
import dev.graphema.event.Draft;
import dev.graphema.event.Event;
import dev.graphema.lines.LineStream;
import dev.graphema.lines.form.WrittenEvents;
import dev.graphema.lines.shape.LineShape;
import dev.graphema.query.partial.EventLines;
import dev.graphema.query.source.Following;
import dev.graphema.text.Times;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.sql.Timestamp;
import java.util.ArrayList;
import java.util.Iterator;
import java.util.List;
import org.apache.spark.api.java.function.FlatMapFunction;
import org.apache.spark.sql.Row;

/**
 * The events of records of a topic. The value of a record is one or more lines: Graphema JSON, or those of any other program. An event
 * without an id gets the place of its record as its id; one without a time, the time of its record.
 */
public final class RecordEvents implements FlatMapFunction<Row, Row> {
    /** The columns of a record that are read. */
    public static final List<String> COLUMNS = List.of("value", "topic", "partition", "offset", "timestamp");

    private static final long serialVersionUID = 1;
    private static final int OF_A_RECORD = 1 << 10;

    private final EventSchema schema;
    private transient EventLines lines;

    public RecordEvents(EventSchema schema) {
        this.schema = schema;
    }

    @Override
    public Iterator<Row> call(Row record) {
        byte[] value = record.getAs("value");
        if (value == null || value.length == 0) {
            return List.<Row>of().iterator(); // the deletion of a key
        }
        if (lines == null) {
            lines = WrittenEvents.reader();
        }
        Event own = value[value.length - 1] == '}' ? lines.read(new String(value, StandardCharsets.UTF_8), 0) : null;
        List<Event> events = own != null && own.hasTime() ? List.of(own) : read(value);
        List<Row> rows = new ArrayList<>(events.size());
        long time = Times.epochNanos(record.<Timestamp>getAs("timestamp").toInstant());
        long offset = record.getAs("offset");
        String place =
                record.getAs("topic") + "/" + record.<Integer>getAs("partition") + "/" + offset + "/" + time + "/";
        for (Event each : events) {
            Event timed = each.hasTime()
                    ? each
                    : Draft.copyOf(each, each.fields()).time(time).finish();
            rows.add(schema.row(timed, offset * OF_A_RECORD + rows.size(), place + rows.size()));
        }
        return rows.iterator();
    }

    private static List<Event> read(byte[] value) {
        List<Event> events = new ArrayList<>();
        LineStream stream = LineStream.uncompressed("record", new ByteArrayInputStream(value), LineShape.USUAL);
        try (Following following = stream.follow(Condition.EVERYTHING)) {
            boolean goesOn = true;
            while (goesOn) {
                goesOn = following.poll(new Following.Listener() {
                    @Override
                    public void event(Event event) {
                        events.add(event);
                    }

                    @Override
                    public void foreign(String text) {
                        events.add(Draft.ofWritten().message(text).timeless(0).finish());
                    }
                });
            }
        } catch (IOException e) {
            throw new UncheckedIOException(e); // memory has no errors
        }
        return events;
    }
}
