package dev.graphema.cli;

/** Words of commands that are shown to be repeated. */
public final class Shell {
    private Shell() {}

    /** The text as one word of a POSIX shell: in single quotes when it needs them. */
    public static String quoted(String text) {
        boolean plain = !text.isEmpty();
        for (int i = 0; i < text.length() && plain; i++) {
            char c = text.charAt(i);
            plain = c < 0x80 && Character.isLetterOrDigit(c) || "-_./:=,+@%".indexOf(c) >= 0;
        }
        return plain ? text : "'" + text.replace("'", "'\\''") + "'";
    }
}
