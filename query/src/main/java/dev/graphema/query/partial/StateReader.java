package dev.graphema.query.partial;

import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonToken;
import dev.graphema.event.Event;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.LongStream;

/** Reads what {@link StateWriter} has written. For one thread. */
final class StateReader {
    private final JsonParser json;
    private final EventLines events;

    StateReader(JsonParser json, EventLines events) {
        this.json = json;
        this.events = events;
    }

    long number() throws IOException {
        return require(JsonToken.VALUE_NUMBER_INT).getLongValue();
    }

    double bits() throws IOException {
        return Double.longBitsToDouble(number());
    }

    boolean flag() throws IOException {
        JsonToken token = json.nextToken();
        if (token != JsonToken.VALUE_TRUE && token != JsonToken.VALUE_FALSE) {
            throw unexpected("true or false");
        }
        return token == JsonToken.VALUE_TRUE;
    }

    /** Returns null for none. */
    String text() throws IOException {
        JsonToken token = json.nextToken();
        if (token != JsonToken.VALUE_STRING && token != JsonToken.VALUE_NULL) {
            throw unexpected("a text");
        }
        return token == JsonToken.VALUE_NULL ? null : json.getText();
    }

    void begin() throws IOException {
        require(JsonToken.START_ARRAY);
    }

    void end() throws IOException {
        require(JsonToken.END_ARRAY);
    }

    /** Begins an array within another one; false at the end of that, which is passed. */
    boolean next() throws IOException {
        JsonToken token = json.nextToken();
        if (token != JsonToken.START_ARRAY && token != JsonToken.END_ARRAY) {
            throw unexpected("a list");
        }
        return token == JsonToken.START_ARRAY;
    }

    List<String> texts() throws IOException {
        begin();
        List<String> texts = new ArrayList<>();
        while (json.nextToken() != JsonToken.END_ARRAY) {
            if (json.currentToken() != JsonToken.VALUE_STRING && json.currentToken() != JsonToken.VALUE_NULL) {
                throw unexpected("a text");
            }
            texts.add(json.currentToken() == JsonToken.VALUE_NULL ? null : json.getText());
        }
        return texts;
    }

    long[] numbers() throws IOException {
        begin();
        LongStream.Builder numbers = LongStream.builder();
        while (json.nextToken() == JsonToken.VALUE_NUMBER_INT) {
            numbers.add(json.getLongValue());
        }
        if (json.currentToken() != JsonToken.END_ARRAY) {
            throw unexpected("a number");
        }
        return numbers.build().toArray();
    }

    /** Passes on pairs of numbers. */
    void pairs(NumberCounts.Taker taker) throws IOException {
        begin();
        while (json.nextToken() == JsonToken.VALUE_NUMBER_INT) {
            long first = json.getLongValue();
            taker.take(first, number());
        }
        if (json.currentToken() != JsonToken.END_ARRAY) {
            throw unexpected("a number");
        }
    }

    /** Returns null if it is damaged. */
    Event event(long place) throws IOException {
        String line = text();
        return line == null ? null : events.read(line, place);
    }

    private JsonParser require(JsonToken expected) throws IOException {
        if (json.nextToken() != expected) {
            throw unexpected(expected.name());
        }
        return json;
    }

    private IOException unexpected(String expected) {
        return new IOException("a partial answer has " + json.currentToken() + " at character "
                + json.currentTokenLocation().getCharOffset() + ": expected " + expected);
    }
}
