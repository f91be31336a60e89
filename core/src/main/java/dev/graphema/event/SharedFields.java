package dev.graphema.event;

import java.util.function.UnaryOperator;

/**
 * The ranges of a draft's entries that are those of a context. What was found out about a context holds for all of its
 * events: that a redactor changes nothing in it, and its bytes. For one thread.
 */
final class SharedFields {
    private static final int MOST = 8;

    private final Fields[] all = new Fields[MOST];
    private final int[] from = new int[MOST];
    private final boolean[] mayChange = new boolean[MOST];
    private int count;

    void clear() {
        for (int i = 0; i < count; i++) {
            all[i] = null;
        }
        count = 0;
    }

    /** Adds fields whose entries begin at an index of the draft, behind those of the fields that were added before. */
    void add(Fields fields, int index) {
        if (count < MOST && (count == 0 || index == end(count - 1))) {
            all[count] = fields;
            from[count] = index;
            mayChange[count++] = false;
        }
    }

    /**
     * Applies the operators to all entries, except to those of contexts that the redaction is known not to change.
     *
     * @param redaction null if nothing is known about it
     * @return true if the rewriter may rewrite a field; then only names were rewritten
     */
    boolean rewrite(
            Fields fields,
            SensitiveValues redaction,
            UnaryOperator<String> operator,
            UnaryOperator<String> names,
            FieldRewriter rewriter) {
        boolean hasMatch = false;
        int next = 0;
        for (int i = 0; i < count; i++) {
            hasMatch |= names(fields, names, rewriter, next, from[i]);
            next = end(i);
            mayChange[i] = redaction == null || !all[i].isKeptBy(redaction, redaction.id());
            hasMatch |= mayChange[i] && names(fields, names, rewriter, from[i], next);
        }
        hasMatch |= names(fields, names, rewriter, next, fields.size());
        if (!hasMatch) {
            values(fields, operator);
        }
        return hasMatch;
    }

    private static boolean names(
            Fields fields, UnaryOperator<String> names, FieldRewriter rewriter, int begin, int end) {
        fields.rewriteNames(names, begin, end);
        return rewriter.isAboutNames() && fields.hasMatch(rewriter, begin, end);
    }

    private void values(Fields fields, UnaryOperator<String> operator) {
        int next = 0;
        for (int i = 0; i < count; i++) {
            fields.rewrite(operator, next, from[i]);
            next = end(i);
            if (mayChange[i]) {
                fields.rewrite(operator, from[i], next);
            }
        }
        fields.rewrite(operator, next, fields.size());
    }

    /** Encodes the entries of a draft. */
    void encode(Fields fields, EventBytes to) {
        int next = 0;
        for (int i = 0; i < count; i++) {
            to.entries(fields, next, from[i]);
            next = end(i);
            byte[] known = mayChange[i] ? null : all[i].encoded();
            if (known != null) {
                to.bytes(known, known.length);
                continue;
            }
            int begin = to.length();
            to.entries(fields, from[i], next);
            if (!mayChange[i] && !all[i].hasCutTexts()) {
                all[i].setEncoded(to.copy(begin));
            }
        }
        to.entries(fields, next, fields.size());
    }

    private int end(int i) {
        return from[i] + all[i].size();
    }
}
