package dev.graphema.cli.output;

/**
 * Writes HTML in which values of logs are always text: {@link #text} escapes all characters that could begin a tag or
 * end an attribute, and replaces control characters by their symbols.
 */
final class Html {
    private final StringBuilder to = new StringBuilder(64 * 1024);

    /** Writes constant markup. */
    Html raw(String markup) {
        to.append(markup);
        return this;
    }

    /** Writes text. */
    Html text(Object value) {
        String text = String.valueOf(value);
        for (int i = 0; i < text.length(); i++) {
            char c = text.charAt(i);
            switch (c) {
                case '&' -> to.append("&amp;");
                case '<' -> to.append("&lt;");
                case '>' -> to.append("&gt;");
                case '"' -> to.append("&quot;");
                case '\'' -> to.append("&#39;");
                case '\n', '\t' -> to.append(c);
                default -> visible(c);
            }
        }
        return this;
    }

    private void visible(char c) {
        boolean turnsText = c >= '\u202A' && c <= '\u202E' || c >= '\u2066' && c <= '\u2069';
        if (c < ' ') {
            to.append((char) ('\u2400' + c));
        } else if (turnsText || Character.isISOControl(c) || c == '\uFFFE' || c == '\uFFFF') {
            to.append('\uFFFD');
        } else {
            to.append(c);
        }
    }

    /** Writes a cell of a table. */
    Html cell(Object value) {
        return raw("<td>").text(value == null ? "" : value).raw("</td>");
    }

    Html number(long value) {
        return raw("<td class=\"number\">").text(Counted.number(value)).raw("</td>");
    }

    @Override
    public String toString() {
        return to.toString();
    }
}
