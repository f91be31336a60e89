package dev.graphema.sql.source;

import dev.graphema.event.Event;
import dev.graphema.format.Json;
import dev.graphema.lines.form.JsonLine;
import dev.graphema.lines.form.UnreadableLineException;
import dev.graphema.lines.shape.LineShape;
import dev.graphema.sql.table.RowReading;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.List;

/** Reads the rows of another program as objects in JSON lines of another program are read: by the common meaning of names. */
final class OtherReading implements RowReading {
    private final SqlReader reader;
    private final SqlReader.Answer answer;
    private final List<OtherColumn> columns;
    private final JsonLine json;
    private final StringBuilder line = new StringBuilder();
    private long number;

    OtherReading(SqlReader reader, SqlReader.Answer answer, List<OtherColumn> columns, LineShape shape) {
        this.reader = reader;
        this.answer = answer;
        this.columns = columns;
        this.json = new JsonLine(shape);
    }

    @Override
    public Event event() throws IOException {
        number++;
        line.setLength(0);
        line.append('{');
        for (int i = 0; i < columns.size(); i++) {
            int column = i;
            String value = reader.read(() -> columns.get(column).json(answer.rows(), column + 1));
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
