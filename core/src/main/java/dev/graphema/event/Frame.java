package dev.graphema.event;

import java.util.function.UnaryOperator;

/**
 * A frame of a stack trace.
 *
 * @param type the full name of the class
 * @param method the name of the method
 * @param file the name of the source file, or null
 * @param line the line number; negative if unknown, -2 for native code
 */
public record Frame(String type, String method, String file, int line) {
    public static Frame of(StackTraceElement element) {
        return new Frame(
                element.getClassName(), element.getMethodName(), element.getFileName(), element.getLineNumber());
    }

    /** Returns the frame with its texts changed by an operator; the same frame if nothing changes. */
    Frame rewritten(UnaryOperator<String> operator) {
        String newType = operator.apply(type);
        String newMethod = operator.apply(method);
        String newFile = file == null ? null : operator.apply(file);
        boolean isSame = newType == type && newMethod == method && newFile == file;
        return isSame ? this : new Frame(newType, newMethod, newFile, line);
    }

    /** Parses the result of {@link #toString()}; any other text becomes a frame with that text as its type. */
    public static Frame parse(String text) {
        int open = text.lastIndexOf('(');
        int dot = open < 0 ? -1 : text.lastIndexOf('.', open);
        if (dot <= 0 || !text.endsWith(")")) {
            return new Frame(text, "", null, -1);
        }
        String type = text.substring(0, dot);
        String method = text.substring(dot + 1, open);
        String place = text.substring(open + 1, text.length() - 1);
        if (place.equals("native")) {
            return new Frame(type, method, null, -2);
        }
        if (place.equals("unknown")) {
            return new Frame(type, method, null, -1);
        }
        int colon = place.lastIndexOf(':');
        if (colon > 0) {
            try {
                return new Frame(type, method, place.substring(0, colon), Integer.parseInt(place.substring(colon + 1)));
            } catch (NumberFormatException e) {
                return new Frame(text, "", null, -1);
            }
        }
        return new Frame(type, method, place, -1);
    }

    /** Returns class and method with the position in parentheses: {@code skerry.deck.Lanes.take(Lanes.java:42)}. */
    @Override
    public String toString() {
        if (method.isEmpty()) {
            return type;
        }
        String place = line == -2 ? "native" : file == null ? "unknown" : line < 0 ? file : file + ":" + line;
        return type + "." + method + "(" + place + ")";
    }
}
