package dev.graphema.cli.output;

/** Escapes values of logs for HTML: they are always text. */
final class Html {
    private Html() {}

    /**
     * Returns the text with all characters escaped that could begin a tag or end an attribute; control characters are
     * replaced by their symbols.
     */
    static String escaped(String text) {
        StringBuilder to = new StringBuilder(text.length() + 16);
        for (int i = 0; i < text.length(); i++) {
            char c = text.charAt(i);
            switch (c) {
                case '&' -> to.append("&amp;");
                case '<' -> to.append("&lt;");
                case '>' -> to.append("&gt;");
                case '"' -> to.append("&quot;");
                case '\'' -> to.append("&#39;");
                case '\n', '\t' -> to.append(c);
                default -> to.append(visible(c));
            }
        }
        return to.toString();
    }

    private static char visible(char c) {
        boolean turnsText = c >= '\u202A' && c <= '\u202E' || c >= '\u2066' && c <= '\u2069';
        if (c < ' ') {
            return (char) ('\u2400' + c);
        }
        return turnsText || Character.isISOControl(c) || c == '\uFFFE' || c == '\uFFFF' ? '\uFFFD' : c;
    }
}
