package dev.graphema.lines.shape;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/** Attributes of events in lines of other programs. */
public enum LineAttribute {
    TIME,
    LEVEL,
    MESSAGE,
    LOGGER,
    SERVICE,
    INSTANCE,
    THREAD,
    TRACE,
    SPAN,
    PARENT,
    FAILURE_TYPE,
    FAILURE_MESSAGE,
    FAILURE_TEXT;

    /** How many groups can contain an attribute. */
    public static final int DEEPEST = 3;

    /** Returns the name in user-defined mappings. */
    public String text() {
        return name().toLowerCase(Locale.ROOT).replace('_', '.');
    }

    /** Returns the attribute with this name; null if there is none. */
    public static LineAttribute of(String text) {
        for (LineAttribute attribute : values()) {
            if (attribute.text().equalsIgnoreCase(text)) {
                return attribute;
            }
        }
        return null;
    }

    /** Returns the names of all attributes. */
    public static List<String> texts() {
        List<String> texts = new ArrayList<>();
        for (LineAttribute attribute : values()) {
            texts.add(attribute.text());
        }
        return texts;
    }
}
