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
    private final boolean[] isChanged = new boolean[MOST];
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
            isChanged[count++] = false;
        }
    }

    /**
     * Applies the operators to all entries, except to those of contexts that they are known not to change.
     *
     * @return true if the rewriter may rewrite a field; then only names were rewritten
     */
    boolean rewrite(
            Fields fields, UnaryOperator<String> operator, UnaryOperator<String> names, FieldRewriter rewriter) {
        boolean hasMeant = false;
        int next = 0;
        for (int i = 0; i < count; i++) {
            hasMeant |= names(fields, names, rewriter, next, from[i]);
            next = end(i);
            if (!all[i].isUnchangedBy(operator)) {
                isChanged[i] = fields.rewriteNames(names, from[i], next);
                hasMeant |= rewriter.isAboutNames() && fields.hasMeant(rewriter, from[i], next);
            }
        }
        hasMeant |= names(fields, names, rewriter, next, fields.size());
        if (!hasMeant) {
            values(fields, operator);
        }
        return hasMeant;
    }

    private static boolean names(
            Fields fields, UnaryOperator<String> names, FieldRewriter rewriter, int begin, int end) {
        fields.rewriteNames(names, begin, end);
        return rewriter.isAboutNames() && fields.hasMeant(rewriter, begin, end);
    }

    private void values(Fields fields, UnaryOperator<String> operator) {
        int next = 0;
        for (int i = 0; i < count; i++) {
            fields.rewrite(operator, next, from[i]);
            next = end(i);
            if (!all[i].isUnchangedBy(operator)) {
                isChanged[i] |= fields.rewrite(operator, from[i], next);
                if (!isChanged[i]) {
                    all[i].setUnchangedBy(operator);
                }
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
            byte[] known = isChanged[i] ? null : all[i].encoded();
            if (known != null) {
                to.bytes(known);
                continue;
            }
            int begin = to.length();
            to.entries(fields, from[i], next);
            if (!isChanged[i] && !all[i].hasCutTexts()) {
                all[i].setEncoded(to.copy(begin));
            }
        }
        to.entries(fields, next, fields.size());
    }

    private int end(int i) {
        return from[i] + all[i].size();
    }
}
