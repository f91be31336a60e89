package dev.graphema.query.json;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.core.JsonToken;
import com.fasterxml.jackson.core.StreamReadConstraints;
import com.fasterxml.jackson.core.StreamReadFeature;
import dev.graphema.text.Nearest;
import java.io.IOException;
import java.math.BigDecimal;
import java.math.BigInteger;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;

/** The values of a JSON object by their keys, and errors that name them. */
final class JsonObjectReader {
    private static final JsonFactory JSON = JsonFactory.builder()
            .enable(StreamReadFeature.STRICT_DUPLICATE_DETECTION)
            .streamReadConstraints(
                    StreamReadConstraints.builder().maxNestingDepth(10).build())
            .build();

    /** The path of the object, followed by a dot; empty for the outermost. */
    private final String path;

    private final Map<?, ?> values;

    private JsonObjectReader(String path, Map<?, ?> values) {
        this.path = path;
        this.values = values;
    }

    /** Reads the only object of a text. */
    static JsonObjectReader of(String text) {
        try (JsonParser json = JSON.createParser(text)) {
            json.nextToken();
            Object value = value(json);
            if (json.nextToken() != null || !(value instanceof Map<?, ?> object)) {
                throw new QuestionException("expected one JSON object, such as {\"ask\": {\"kind\": \"events\"}}");
            }
            return new JsonObjectReader("", object);
        } catch (IOException e) {
            String place = e instanceof JsonProcessingException problem && problem.getLocation() != null
                    ? "line " + problem.getLocation().getLineNr() + ", column "
                            + problem.getLocation().getColumnNr()
                    : "the end";
            throw new QuestionException("at " + place + ": expected JSON (RFC 8259) with each key once", e);
        }
    }

    private static Object value(JsonParser json) throws IOException {
        JsonToken token = json.currentToken();
        if (token == JsonToken.START_OBJECT) {
            Map<String, Object> object = new LinkedHashMap<>();
            while (json.nextToken() != JsonToken.END_OBJECT) {
                String name = json.currentName();
                json.nextToken();
                object.put(name, value(json));
            }
            return object;
        }
        if (token == JsonToken.START_ARRAY) {
            List<Object> list = new ArrayList<>();
            while (json.nextToken() != JsonToken.END_ARRAY) {
                list.add(value(json));
            }
            return list;
        }
        if (token == JsonToken.VALUE_NUMBER_INT) {
            return json.getBigIntegerValue();
        }
        if (token == JsonToken.VALUE_NUMBER_FLOAT) {
            return json.getDecimalValue();
        }
        if (token == JsonToken.VALUE_TRUE || token == JsonToken.VALUE_FALSE) {
            return json.getBooleanValue();
        }
        return token == null || token == JsonToken.VALUE_NULL ? null : json.getText();
    }

    /** Checks that there are no other keys. */
    void only(Set<String> known) {
        for (Object key : values.keySet()) {
            if (!known.contains(key)) {
                throw new QuestionException("\"" + path + key + "\" is not known: expected one of "
                        + String.join(", ", known.stream().sorted().toList())
                        + Nearest.hint(key.toString(), known));
            }
        }
    }

    boolean has(String key) {
        return values.get(key) != null;
    }

    /** Returns an object, which must be there. */
    JsonObjectReader object(String key) {
        if (values.get(key) instanceof Map<?, ?> object) {
            return new JsonObjectReader(path + key + ".", object);
        }
        throw wrong(key, "an object");
    }

    /** Returns a text, which must be there. */
    String text(String key, String expected) {
        if (values.get(key) instanceof String text) {
            return text;
        }
        throw wrong(key, expected);
    }

    /** Returns a text, or null. */
    String textOrNull(String key) {
        return has(key) ? text(key, "a text") : null;
    }

    /** Returns true or false; false if it is missing. */
    boolean isTrue(String key) {
        if (!has(key)) {
            return false;
        }
        if (values.get(key) instanceof Boolean value) {
            return value;
        }
        throw wrong(key, "true or false");
    }

    List<String> texts(String key, String expected) {
        List<String> texts = new ArrayList<>();
        if (values.get(key) instanceof List<?> list) {
            for (Object each : list) {
                if (!(each instanceof String text)) {
                    throw wrong(key, expected);
                }
                texts.add(text);
            }
            return texts;
        }
        throw wrong(key, expected);
    }

    List<BigDecimal> decimals(String key, String expected) {
        List<BigDecimal> numbers = new ArrayList<>();
        if (values.get(key) instanceof List<?> list) {
            for (Object each : list) {
                if (!(each instanceof Number number)) {
                    throw wrong(key, expected);
                }
                numbers.add(number instanceof BigDecimal decimal ? decimal : new BigDecimal(number.toString()));
            }
            return numbers;
        }
        throw wrong(key, expected);
    }

    /** Returns a whole number; the default if it is missing. */
    int number(String key, int least, int missing) {
        if (!has(key)) {
            return missing;
        }
        if (values.get(key) instanceof BigInteger number
                && number.bitLength() < Integer.SIZE
                && number.intValue() >= least) {
            return number.intValue();
        }
        throw wrong(key, "a whole number, " + least + " or more");
    }

    QuestionException wrong(String key, String expected) {
        Object value = values.get(key);
        return new QuestionException("\"" + path + key + "\" is "
                + (value == null ? "missing" : value instanceof String ? "\"" + value + "\"" : value.toString())
                + ": expected " + expected);
    }
}
