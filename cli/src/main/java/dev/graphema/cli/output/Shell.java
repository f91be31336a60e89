package dev.graphema.cli.output;

/** Arguments of suggested commands. */
public final class Shell {
    private Shell() {}

    /** Returns the text as one argument of a POSIX shell, in single quotes if necessary. */
    public static String quoted(String text) {
        boolean plain = !text.isEmpty();
        for (int i = 0; i < text.length() && plain; i++) {
            char c = text.charAt(i);
            plain = c < 0x80 && Character.isLetterOrDigit(c) || "-_./:=,+@%".indexOf(c) >= 0;
        }
        return plain ? text : "'" + text.replace("'", "'\\''") + "'";
    }
}
