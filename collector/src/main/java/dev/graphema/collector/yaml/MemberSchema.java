package dev.graphema.collector.yaml;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonGenerator;
import java.io.IOException;
import java.io.StringWriter;
import java.io.UncheckedIOException;
import java.util.List;

/** Writes members as a JSON Schema (2020-12). */
public final class MemberSchema {
    private static final JsonFactory JSON = new JsonFactory();

    private final JsonGenerator json;

    private MemberSchema(JsonGenerator json) {
        this.json = json;
    }

    public static String of(String title, List<Member> members) {
        StringWriter text = new StringWriter();
        try (JsonGenerator json = JSON.createGenerator(text).useDefaultPrettyPrinter()) {
            json.writeStartObject();
            json.writeStringField("$schema", "https://json-schema.org/draft/2020-12/schema");
            json.writeStringField("title", title);
            new MemberSchema(json).mapping(members);
            json.writeEndObject();
        } catch (IOException e) {
            throw new UncheckedIOException(e); // a string has no errors
        }
        return text.toString();
    }

    private void mapping(List<Member> members) throws IOException {
        json.writeStringField("type", "object");
        json.writeBooleanField("additionalProperties", false);
        json.writeObjectFieldStart("properties");
        for (Member each : members) {
            json.writeObjectFieldStart(each.name());
            json.writeStringField("description", each.meaning());
            form(each);
            json.writeEndObject();
        }
        json.writeEndObject();
        List<Member> required = members.stream().filter(Member::isRequired).toList();
        if (!required.isEmpty()) {
            json.writeArrayFieldStart("required");
            for (Member each : required) {
                json.writeString(each.name());
            }
            json.writeEndArray();
        }
    }

    private void form(Member member) throws IOException {
        switch (member.kind()) {
            case TEXT -> json.writeStringField("type", "string");
            case BOOLEAN -> types("boolean", "string");
            case NUMBER -> types("integer", "string");
            case TEXTS -> {
                types("string", "array");
                json.writeObjectFieldStart("items");
                json.writeStringField("type", "string");
                json.writeEndObject();
            }
            case GROUP -> mapping(member.members());
            default -> {
                json.writeStringField("type", "array");
                json.writeObjectFieldStart("items");
                mapping(member.members());
                json.writeEndObject();
            }
        }
    }

    /** Any of the types; a text can be a variable. */
    private void types(String... types) throws IOException {
        json.writeArrayFieldStart("type");
        for (String each : types) {
            json.writeString(each);
        }
        json.writeEndArray();
    }
}
