package dev.graphema.sql;

/** Texts of SQL statements. */
final class SqlText {
    private SqlText() {}

    /**
     * Returns a statement with a question mark for each literal: text in single quotes or between dollar signs, and numbers.
     * Names in double quotes, backquotes or brackets and comments remain. Linear in the length of the statement.
     */
    static String withoutValues(String statement) {
        StringBuilder text = new StringBuilder(statement.length());
        int length = statement.length();
        int at = 0;
        while (at < length) {
            char here = statement.charAt(at);
            if (here == '\'') {
                at = afterQuote(statement, at);
                text.append('?');
            } else if (here == '"' || here == '`') {
                int end = statement.indexOf(here, at + 1);
                int to = end < 0 ? length : end + 1;
                text.append(statement, at, to);
                at = to;
            } else if (here == '$' && endOfTag(statement, at) > 0) {
                int tagEnd = endOfTag(statement, at);
                int end = statement.indexOf(statement.substring(at, tagEnd), tagEnd);
                at = end < 0 ? length : end + tagEnd - at;
                text.append('?');
            } else if (isDigit(here)) {
                at = afterNumber(statement, at);
                text.append('?');
            } else if (Character.isJavaIdentifierStart(here)) {
                int end = afterName(statement, at);
                text.append(statement, at, end);
                at = end;
            } else {
                text.append(here);
                at++;
            }
        }
        return text.toString();
    }

    /** Returns the position after a text in quotes, in which two quotes are one. */
    private static int afterQuote(String statement, int from) {
        int at = from + 1;
        while (at < statement.length()) {
            if (statement.charAt(at) == '\'') {
                if (at + 1 == statement.length() || statement.charAt(at + 1) != '\'') {
                    return at + 1;
                }
                at++;
            }
            at++;
        }
        return at;
    }

    /** Returns the end of a tag such as $$ or $body$, which begins a text in PostgreSQL; 0 if there is none. */
    private static int endOfTag(String statement, int from) {
        int at = from + 1;
        while (at < statement.length()
                && at - from <= 64
                && (Character.isLetter(statement.charAt(at)) || at > from + 1 && isDigit(statement.charAt(at)))) {
            at++;
        }
        return at < statement.length() && statement.charAt(at) == '$' ? at + 1 : 0;
    }

    private static int afterNumber(String statement, int from) {
        int at = from;
        while (at < statement.length()) {
            char here = statement.charAt(at);
            boolean isSign = (here == '+' || here == '-') && (statement.charAt(at - 1) | 0x20) == 'e';
            if (!isDigit(here) && !Character.isLetter(here) && here != '.' && !isSign) {
                return at;
            }
            at++;
        }
        return at;
    }

    private static int afterName(String statement, int from) {
        int at = from;
        while (at < statement.length()
                && statement.charAt(at) != '$'
                && Character.isJavaIdentifierPart(statement.charAt(at))) {
            at++;
        }
        return Math.max(at, from + 1);
    }

    private static boolean isDigit(char character) {
        return character >= '0' && character <= '9';
    }
}
