package dev.graphema.sql.source;

import dev.graphema.event.Event;
import dev.graphema.format.Json;
import dev.graphema.lines.form.JsonLine;
import dev.graphema.lines.form.UnreadableLineException;
import dev.graphema.lines.shape.LineShape;
import java.nio.charset.StandardCharsets;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.List;

/** Reads the rows of another program as objects in JSON lines of another program are read: by the common meaning of names. */
final class OtherReading implements RowReading {
    private final List<OtherColumn> columns;
    private final JsonLine json;
    private final StringBuilder line = new StringBuilder();
    private long number;

    OtherReading(List<OtherColumn> columns, LineShape shape) {
        this.columns = columns;
        this.json = new JsonLine(shape);
    }

    @Override
    public Event event(ResultSet rows) throws SQLException {
        number++;
        line.setLength(0);
        line.append('{');
        for (int i = 0; i < columns.size(); i++) {
            String value = columns.get(i).json(rows, i + 1);
            if (value != null) {
                line.append(line.length() > 1 ? "," : "")
                        .append(Json.of(columns.get(i).name()))
                        .append(':')
                        .append(value);
            }
        }
        byte[] bytes = line.append('}').toString().getBytes(StandardCharsets.UTF_8);
        try {
            return json.read(bytes, 0, bytes.length, 0, false);
        } catch (UnreadableLineException e) {
            throw new IllegalStateException("it is an object", e);
        }
    }

    @Override
    public long number() {
        return number;
    }

    @Override
    public long length() {
        return line.length();
    }
}
