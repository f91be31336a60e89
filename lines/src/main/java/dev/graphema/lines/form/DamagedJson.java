package dev.graphema.lines.form;

import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonProcessingException;
import java.io.IOException;

/** Finds what can be read of JSON behind damage. */
final class DamagedJson {
    private DamagedJson() {}

    /** Returns where a parser found damage, in characters; 0 if it does not know. */
    static int place(IOException damage, JsonParser json) {
        if (damage instanceof JsonProcessingException problem && problem.getLocation() != null) {
            return (int) Math.max(0, problem.getLocation().getCharOffset());
        }
        return json == null ? 0 : (int) Math.max(0, json.currentLocation().getCharOffset());
    }

    /**
     * Returns the name whose value begins right before the damage, or continues in it, as in {@code "a":12x}; null if
     * there is none.
     */
    static String openName(String line, int from, int damage) {
        int colon = line.lastIndexOf(':', Math.min(damage, line.length() - 1));
        int end = colon < 0 ? -1 : line.lastIndexOf('"', colon);
        int begin = end <= from ? -1 : line.lastIndexOf('"', end - 1);
        if (begin < from || begin < 0 || !line.substring(end + 1, colon).isBlank()) {
            return null;
        }
        boolean isOneWord = true;
        for (int i = afterSpaces(line, colon + 1); i < Math.min(damage + 1, line.length()); i++) {
            isOneWord &= Character.isLetterOrDigit(line.charAt(i)) || "+-._,".indexOf(line.charAt(i)) >= 0;
        }
        return isOneWord ? line.substring(begin + 1, end) : null;
    }

    /** Returns the text that is written as the value of a name, up to the damage in it; null if there is none. */
    static String valueOf(String name, String line, int from, int damage) {
        int at = line.lastIndexOf('"' + name + '"', damage);
        int colon = at < from ? line.length() : afterSpaces(line, at + name.length() + 2);
        if (colon >= line.length() || line.charAt(colon) != ':') {
            return null;
        }
        int begin = afterSpaces(line, colon + 1);
        boolean isText = begin < line.length() && line.charAt(begin) == '"';
        begin += isText ? 1 : 0;
        int end = begin;
        while (end < line.length() && (isText ? "\"" : ",}]").indexOf(line.charAt(end)) < 0) {
            end++;
        }
        String value = line.substring(begin, end).strip();
        return value.isEmpty() ? null : value;
    }

    /** Returns the position of the next name in quotes with a colon behind it, from a position on; -1 if there is none. */
    static int nextMember(String line, int from) {
        int at = from;
        while ((at = line.indexOf(',', at)) >= 0) {
            int name = afterSpaces(line, at + 1);
            int end = name < line.length() && line.charAt(name) == '"' ? line.indexOf('"', name + 1) : -1;
            int colon = end < 0 ? line.length() : afterSpaces(line, end + 1);
            if (colon < line.length() && line.charAt(colon) == ':') {
                return name;
            }
            at++;
        }
        return -1;
    }

    /** Returns the position behind the last comma before a position; 0 without one. */
    static int afterComma(String line, int position) {
        return line.lastIndexOf(',', position - 1) + 1;
    }

    /**
     * Returns a part of a line, without a comma at its end.
     *
     * @param to its end; -1 for that of the line
     */
    static String part(String line, int from, int to) {
        String part = line.substring(from, to < from ? line.length() : to).strip();
        int begin = part.startsWith("{") && from == 0 ? 1 : 0;
        return part.substring(begin, Math.max(begin, part.length() - (part.endsWith(",") ? 1 : 0)));
    }

    private static int afterSpaces(String line, int from) {
        int at = from;
        while (at < line.length() && line.charAt(at) <= ' ') {
            at++;
        }
        return at;
    }
}
