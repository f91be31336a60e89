package dev.graphema.lines.stack;

import dev.graphema.event.Failure.Frame;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** Parses a frame behind {@code at}, as the JVM, Node.js and .NET write it. */
final class FrameText {
    /** {@code java.base/java.lang.Thread.run(Thread.java:840)}: module or class loader are not part of the name. */
    private static final Pattern LOADER = Pattern.compile("[\\w.@]+//?(?=[\\w$.]+\\()");

    /** {@code Skerry.Deck.Lanes.Take(String lane) in /src/Lanes.cs:line 63}. */
    private static final Pattern DOTNET =
            Pattern.compile("([^\\s(]+)\\.([^.\\s(]+)\\(([^)]*)\\)(?: in (.+):line (\\d{1,9}))?");

    /** {@code async Lanes.take (/src/lanes.js:63:11)} and {@code /src/lanes.js:63:11}. */
    private static final Pattern NODE = Pattern.compile(
            "(?:async )?(?:(?:new )?(\\S+)(?: \\[as \\S+\\])? \\((.+?):(\\d{1,9})(?::\\d+)?\\)|(\\S+?):(\\d{1,9}):\\d+)");

    private FrameText() {}

    /** Returns the frame; a text of another form becomes a frame with that text as its type. */
    static Frame parse(String text) {
        String plain = LOADER.matcher(text).lookingAt() ? LOADER.matcher(text).replaceFirst("") : text;
        Matcher node = NODE.matcher(plain);
        if (node.matches()) {
            String call = node.group(1) == null ? "" : node.group(1);
            String file = node.group(2) == null ? node.group(4) : node.group(2);
            int line = Integer.parseInt(node.group(3) == null ? node.group(5) : node.group(3));
            int dot = call.lastIndexOf('.');
            return new Frame(dot > 0 ? call.substring(0, dot) : file, call.substring(dot + 1), file, line);
        }
        Matcher dotnet = DOTNET.matcher(plain);
        if (dotnet.matches() && (dotnet.group(4) != null || !isJvmPlace(dotnet.group(3)))) {
            int line = dotnet.group(5) == null ? -1 : Integer.parseInt(dotnet.group(5));
            return new Frame(dotnet.group(1), dotnet.group(2), dotnet.group(4), line);
        }
        return Frame.parse(plain);
    }

    /** Whether the text in parentheses is a file of the JVM, and not the parameters of a method. */
    private static boolean isJvmPlace(String text) {
        return text.matches("[\\w$-]+\\.\\w+(:\\d+)?|Native Method|Unknown Source|native|unknown");
    }
}
