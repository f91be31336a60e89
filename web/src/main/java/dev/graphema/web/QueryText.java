package dev.graphema.web;

/** The query of an address without values that must not be recorded. */
final class QueryText {
    private static final String HIDDEN = "[hidden]";

    private QueryText() {}

    /**
     * Returns the query with the values of all parameters replaced, except those that may be recorded; null for null.
     */
    static String shown(String query, RequestOptions options) {
        if (query == null) {
            return null;
        }
        StringBuilder shown = new StringBuilder(query.length());
        for (String parameter : query.split("&", -1)) {
            int equals = parameter.indexOf('=');
            String name = equals < 0 ? parameter : parameter.substring(0, equals);
            shown.append(shown.length() == 0 ? "" : "&");
            // Without a "=", the text may be a value or a name.
            if (options.showsParameter(name)) {
                shown.append(parameter);
            } else if (equals >= 0) {
                shown.append(name).append('=').append(HIDDEN);
            } else if (!name.isEmpty()) {
                shown.append(HIDDEN);
            }
        }
        return shown.toString();
    }
}
