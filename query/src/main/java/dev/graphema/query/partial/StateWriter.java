package dev.graphema.query.partial;

import com.fasterxml.jackson.core.JsonGenerator;
import dev.graphema.event.Event;
import dev.graphema.format.JsonLines;
import dev.graphema.text.Utf8Buffer;
import java.io.IOException;
import java.util.Collection;

/** Writes the state of partial answers as nested JSON arrays; {@link StateReader} reads them. For one thread. */
final class StateWriter {
    private final JsonGenerator json;
    private final JsonLines events = new JsonLines();

    StateWriter(JsonGenerator json) {
        this.json = json;
    }

    StateWriter number(long number) throws IOException {
        json.writeNumber(number);
        return this;
    }

    /** Writes the bits of a number, because infinite ones are no JSON. */
    StateWriter bits(double number) throws IOException {
        return number(Double.doubleToRawLongBits(number));
    }

    StateWriter flag(boolean flag) throws IOException {
        json.writeBoolean(flag);
        return this;
    }

    /** @param text null for none */
    StateWriter text(String text) throws IOException {
        json.writeString(text);
        return this;
    }

    StateWriter begin() throws IOException {
        json.writeStartArray();
        return this;
    }

    StateWriter end() throws IOException {
        json.writeEndArray();
        return this;
    }

    StateWriter numbers(long... numbers) throws IOException {
        begin();
        for (long number : numbers) {
            number(number);
        }
        return end();
    }

    StateWriter texts(Collection<String> texts) throws IOException {
        begin();
        for (String text : texts) {
            text(text);
        }
        return end();
    }

    /** Writes an event as the text of its line. */
    StateWriter event(Event event) throws IOException {
        Utf8Buffer line = new Utf8Buffer(512);
        events.write(event, line);
        return text(line.toString().stripTrailing());
    }
}
