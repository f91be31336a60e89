package dev.graphema.condition;

import dev.graphema.event.Attribute;
import dev.graphema.event.EventValues;
import java.util.Objects;

/**
 * The name of an attribute or a field.
 *
 * @param attribute the attribute, or null for a field
 * @param field the name of the field, in which a dot separates groups, or null for an attribute
 */
public record Name(Attribute attribute, String field) {
    /** The prefix that distinguishes a field from an attribute of the same name. */
    static final String FIELDS = "fields.";

    /** Returns the name of an attribute, or else of a field. */
    public static Name of(String text) {
        if (text.startsWith(FIELDS) && text.length() > FIELDS.length()) {
            return new Name(null, text.substring(FIELDS.length()));
        }
        Attribute attribute = Attribute.of(text);
        return attribute == null ? new Name(null, text) : new Name(attribute, null);
    }

    /** Returns the value of the event, as {@link EventValues#value} and {@link dev.graphema.event.Fields#get} do, or null. */
    public Object value(EventValues event) {
        return attribute == null ? event.fields().get(field) : event.value(attribute);
    }

    // The comparisons of a record are generated when they are first called, which takes longer than many
    // questions.

    @Override
    public boolean equals(Object other) {
        return other instanceof Name name && attribute == name.attribute && Objects.equals(field, name.field);
    }

    @Override
    public int hashCode() {
        return attribute == null ? field.hashCode() : attribute.text().hashCode();
    }

    @Override
    public String toString() {
        if (attribute != null) {
            return attribute.text();
        }
        boolean mistakable = Attribute.of(field) != null || field.startsWith(FIELDS) || Keywords.isKeyword(field);
        return mistakable ? FIELDS + field : field;
    }
}
