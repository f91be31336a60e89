package dev.graphema.collector.otlp;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonToken;
import com.fasterxml.jackson.core.StreamReadConstraints;
import com.google.protobuf.ByteString;
import com.google.protobuf.Descriptors.EnumValueDescriptor;
import com.google.protobuf.Descriptors.FieldDescriptor;
import com.google.protobuf.Message;
import java.io.IOException;
import java.math.BigDecimal;
import java.math.BigInteger;
import java.util.Base64;
import java.util.HexFormat;
import java.util.Set;

/**
 * Reads messages in the JSON encoding of OTLP: that of protobuf, except that ids are hexadecimal. Fields that are not known are
 * skipped, as the standard demands.
 */
final class OtlpJsonReader {
    private static final Set<String> IDS = Set.of("trace_id", "span_id", "parent_span_id");
    private static final int DEEPEST = 100;
    private static final JsonFactory JSON = JsonFactory.builder()
            .streamReadConstraints(StreamReadConstraints.builder()
                    .maxNestingDepth(DEEPEST)
                    .maxStringLength(Integer.MAX_VALUE)
                    .build())
            .build();

    private OtlpJsonReader() {}

    /**
     * Reads a message.
     *
     * @throws IOException if it is no JSON object, or a value is not of the type of its field
     */
    static void read(byte[] json, Message.Builder to) throws IOException {
        try (JsonParser parser = JSON.createParser(json)) {
            if (parser.nextToken() != JsonToken.START_OBJECT) {
                throw wrong(parser, "an object");
            }
            message(parser, to);
            if (parser.nextToken() != null) {
                throw wrong(parser, "nothing after the object");
            }
        }
    }

    private static void message(JsonParser json, Message.Builder to) throws IOException {
        while (json.nextToken() != JsonToken.END_OBJECT) {
            String name = json.currentName();
            FieldDescriptor field = field(name, to);
            json.nextToken();
            if (field == null) {
                json.skipChildren();
            } else if (json.currentToken() != JsonToken.VALUE_NULL) {
                if (field.isRepeated()) {
                    repeated(json, field, to);
                } else {
                    to.setField(field, value(json, field, to));
                }
            }
        }
    }

    /** Both the names in JSON and the original ones are allowed. */
    private static FieldDescriptor field(String name, Message.Builder of) {
        for (FieldDescriptor field : of.getDescriptorForType().getFields()) {
            if (field.getJsonName().equals(name) || field.getName().equals(name)) {
                return field;
            }
        }
        return null;
    }

    private static void repeated(JsonParser json, FieldDescriptor field, Message.Builder to) throws IOException {
        if (json.currentToken() != JsonToken.START_ARRAY) {
            throw wrong(json, "a list of " + field.getJsonName());
        }
        while (json.nextToken() != JsonToken.END_ARRAY) {
            to.addRepeatedField(field, value(json, field, to));
        }
    }

    private static Object value(JsonParser json, FieldDescriptor field, Message.Builder of) throws IOException {
        return switch (field.getJavaType()) {
            case MESSAGE -> nested(json, field, of);
            case STRING -> text(json, field);
            case BYTE_STRING -> bytes(text(json, field), field, json);
            case BOOLEAN -> bool(json, field);
            case DOUBLE -> real(json, field).doubleValue();
            case FLOAT -> real(json, field).floatValue();
            case INT -> (int) whole(json, field);
            case LONG -> whole(json, field);
            case ENUM -> choice(json, field);
        };
    }

    private static Message nested(JsonParser json, FieldDescriptor field, Message.Builder of) throws IOException {
        if (json.currentToken() != JsonToken.START_OBJECT) {
            throw wrong(json, field.getJsonName() + " as an object");
        }
        Message.Builder nested = of.newBuilderForField(field);
        message(json, nested);
        return nested.build();
    }

    private static String text(JsonParser json, FieldDescriptor field) throws IOException {
        if (json.currentToken() != JsonToken.VALUE_STRING) {
            throw wrong(json, field.getJsonName() + " as a text");
        }
        return json.getText();
    }

    private static ByteString bytes(String text, FieldDescriptor field, JsonParser json) throws IOException {
        boolean isId = IDS.contains(field.getName());
        try {
            return ByteString.copyFrom(
                    isId
                            ? HexFormat.of().parseHex(text)
                            : Base64.getMimeDecoder().decode(text));
        } catch (IllegalArgumentException e) {
            throw wrong(json, field.getJsonName() + (isId ? " in hexadecimal digits" : " in base64"));
        }
    }

    private static boolean bool(JsonParser json, FieldDescriptor field) throws IOException {
        if (json.currentToken() != JsonToken.VALUE_TRUE && json.currentToken() != JsonToken.VALUE_FALSE) {
            throw wrong(json, field.getJsonName() + " as true or false");
        }
        return json.currentToken() == JsonToken.VALUE_TRUE;
    }

    /** Numbers may be texts, which 64-bit ones are, and which NaN and infinity must be. */
    private static Double real(JsonParser json, FieldDescriptor field) throws IOException {
        try {
            return Double.valueOf(json.getText());
        } catch (NumberFormatException e) {
            throw wrong(json, field.getJsonName() + " as a number");
        }
    }

    private static long whole(JsonParser json, FieldDescriptor field) throws IOException {
        try {
            BigInteger number = new BigDecimal(json.getText()).toBigIntegerExact();
            if (number.bitLength() <= Long.SIZE) { // the highest bit of those without a sign is that of the sign
                return number.longValue();
            }
        } catch (ArithmeticException | NumberFormatException e) {
            throw wrong(json, field.getJsonName() + " as a whole number");
        }
        throw wrong(json, field.getJsonName() + " with up to 64 bits");
    }

    private static EnumValueDescriptor choice(JsonParser json, FieldDescriptor field) throws IOException {
        if (json.currentToken() == JsonToken.VALUE_STRING) {
            EnumValueDescriptor named = field.getEnumType().findValueByName(json.getText());
            if (named != null) {
                return named;
            }
        }
        return field.getEnumType().findValueByNumberCreatingIfUnknown((int) whole(json, field));
    }

    private static IOException wrong(JsonParser json, String expected) throws IOException {
        String text = json.currentToken() == null ? "the end" : String.valueOf(json.getText());
        return new IOException("at character " + json.currentTokenLocation().getByteOffset() + ", there is "
                + (text.length() > 40 ? text.substring(0, 40) + "…" : text) + ": expected " + expected);
    }
}
