package dev.graphema.event;

import java.util.function.UnaryOperator;

/**
 * One call in a failure's stack.
 *
 * @param type the class's full name
 * @param method the method's name
 * @param file the source file's name, or null when it is not known
 * @param line the line in that file; negative when it is not known, -2 for native code
 */
public record Frame(String type, String method, String file, int line) {
    public static Frame of(StackTraceElement element) {
        return new Frame(
                element.getClassName(), element.getMethodName(), element.getFileName(), element.getLineNumber());
    }

    /** This frame with its texts passed through an operator; the same one when none changes. */
    Frame rewritten(UnaryOperator<String> operator) {
        String newType = operator.apply(type);
        String newMethod = operator.apply(method);
        String newFile = file == null ? null : operator.apply(file);
        boolean isSame = newType == type && newMethod == method && newFile == file;
        return isSame ? this : new Frame(newType, newMethod, newFile, line);
    }

    /** Reads what {@link #toString()} writes; any other text becomes a frame with that text as its type. */
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

    /** The class and method with the place in parentheses: {@code skerry.deck.Lanes.take(Lanes.java:42)}. */
    @Override
    public String toString() {
        if (method.isEmpty()) {
            return type;
        }
        String place = line == -2 ? "native" : file == null ? "unknown" : line < 0 ? file : file + ":" + line;
        return type + "." + method + "(" + place + ")";
    }
}
