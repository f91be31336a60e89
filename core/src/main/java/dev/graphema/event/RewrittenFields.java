package dev.graphema.event;

/** Builds fields with those changed or omitted that a rewriter selects by name. */
final class RewrittenFields {
    private final Fields from;
    private final FieldRewriter rewriter;
    private final Fields to;

    RewrittenFields(Fields from, FieldRewriter rewriter) {
        this.from = from;
        this.rewriter = rewriter;
        this.to = new Fields(from.size());
    }

    /** Returns the fields; the same object if nothing is rewritten. */
    Fields get() {
        return copy("", false, 0, from.size()) ? to : from;
    }

    /**
     * @param path that of the group; when all in it is meant, that by which it is
     * @return whether anything is different
     */
    private boolean copy(String path, boolean meant, int begin, int end) {
        boolean changed = false;
        for (int i = begin; i < end; i = from.next(i)) {
            String name = from.name(i);
            String here = name == null ? path : path.isEmpty() ? name : path + "." + name;
            boolean isMeant = meant || name != null && rewriter.isMeant(here);
            isMeant &= from.kind(i) != Kind.BOOLEAN || rewriter.isMeantAsTruth(meant ? path : here);
            String by = meant ? path : here;
            if (isMeant && rewriter.removes(by)) {
                changed = true;
            } else if (from.isTree(i)) {
                int index = to.begin(name, from.kind(i));
                changed |= copy(by, isMeant, i + 1, from.next(i));
                to.end(index);
            } else if (isMeant && from.kind(i) != Kind.NOTHING) {
                changed = true;
                to.add(name, Kind.TEXT, 0, rewriter.value(by, String.valueOf(from.boxed(i))));
            } else {
                to.addOne(from, i);
            }
        }
        return changed;
    }
}
