package dev.graphema.redaction;

import dev.graphema.event.Draft;
import dev.graphema.event.SensitiveValues;
import dev.graphema.failure.FailurePolicy;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.concurrent.atomic.AtomicLong;
import java.util.concurrent.atomic.LongAdder;
import java.util.function.Consumer;
import java.util.function.Supplier;
import java.util.function.UnaryOperator;

/**
 * Replaces secrets in events: message, thread, names and values of fields at any depth, messages of failures.
 * Thread-safe.
 *
 * <p>One pass over a text selects the detectors that can find something in it; most texts need no more. Findings are
 * replaced by {@code [redacted payment-card]}, or as the treatment of the rule defines. If a detector or treatment
 * fails, the complete text is withheld. Redacting a text twice has the same result as redacting it once.
 */
public final class Redactor implements SensitiveValues {
    private static final AtomicLong LAST_ID = new AtomicLong(); // before the first redactor

    /** Redacts nothing. */
    public static final Redactor NONE = new Redactor(List.of());

    static final String WITHHELD = "[withheld: redaction failed]";

    /** Detectors whose findings may contain others run first; custom patterns run before all. */
    private static final List<String> ORDER = List.of("url", "private-key", "secret", "token", "iban");

    /** The bit of digits. */
    private static final long DIGIT = 1L << 63;

    private static final int MOST_SIGNS = 31;

    /** The bit for every text, and for signs beyond the available bits. */
    private static final long ANYTHING = 1L << MOST_SIGNS;

    private static final long ALL_SIGNS = ANYTHING - 1;

    /** What was found out about a text that no detector needs to read. */
    private static final long CLEAN_TEXT = 0;

    static final int ASCII = 128;

    /** The number of cached texts without secrets, and their longest length. */
    private static final int CLEAN = 1024;

    private static final int LONGEST_CLEAN = 256;

    /** The longest cached value; a lookup computes a hash over all characters of a new text. */
    private static final int SHORT = 24;

    private final long id = LAST_ID.incrementAndGet();
    private final LongAdder withheld = new LongAdder();
    private final Rule[] rules;
    private final KeyRules keys;
    private final Map<String, Treatment> bySensitivity;

    // What each rule's detector requires of a text: a length, a number of digits, and one of these bits.
    private final int[] shortest;
    private final int[] digits;
    private final long[] asks;
    private final int shortestOfAll;

    /** The fewest digits of the triggers that require only digits. */
    private final int fewestDigitsAlone;

    /**
     * For each ASCII character the bits of the signs that it may be, and, {@link #MOST_SIGNS} bits higher, of those
     * that the next character may be.
     */
    private final long[] signs = new long[ASCII];

    /** The bits of the character before the first one, and of all that are not ASCII. */
    private final long other;

    /**
     * A cache of texts without secrets, indexed by hash: messages, names of fields and threads recur as the same
     * objects. Threads write without synchronization; a thread that reads an old entry only examines the text again.
     */
    private final String[] clean = new String[CLEAN];

    /**
     * The same for short values, many of which recur with each event of a request; separate, so that other values do
     * not replace texts of the other cache.
     */
    private final String[] cleanValues = new String[CLEAN];

    private final UnaryOperator<String> redactingValues =
            text -> text.length() <= SHORT ? redactRecurring(text, cleanValues) : redact(text);
    private final UnaryOperator<String> redactingRecurring = text -> redactRecurring(text, clean);

    /** A detector and the treatment of its findings. */
    public record Rule(Detector detector, Treatment treatment) {}

    /** Creates a redactor with the treatment {@code fixed}. */
    public Redactor(List<Detector> detectors) {
        this(
                detectors.stream()
                        .map(detector -> new Rule(detector, Treatment.FIXED))
                        .toList(),
                KeyRules.NONE,
                Map.of());
    }

    /**
     * Creates a redactor.
     *
     * @param rules the detectors and treatments
     * @param keys rules for fields by name, which apply before detectors; if the detector {@code secret} is among the
     *     rules, fields with names of secrets have its treatment, unless one of these rules matches
     * @param bySensitivity treatments of values of sensitive keys by kind of secret; {@code fixed} for others
     */
    public Redactor(List<Rule> rules, KeyRules keys, Map<String, Treatment> bySensitivity) {
        this.rules =
                rules.stream().sorted(Comparator.comparing(Redactor::order)).toArray(Rule[]::new);
        int count = this.rules.length;
        this.shortest = new int[count];
        this.digits = new int[count];
        this.asks = new long[count];
        Treatment secretTreatment = null;
        int least = Integer.MAX_VALUE;
        int fewest = Integer.MAX_VALUE;
        List<Trigger.Sign> all = new ArrayList<>();
        for (int i = 0; i < count; i++) {
            Detector detector = this.rules[i].detector();
            Trigger trigger = detector.trigger();
            secretTreatment = detector instanceof NamedSecrets ? this.rules[i].treatment() : secretTreatment;
            shortest[i] = detector.shortest();
            least = Math.min(least, shortest[i]);
            digits[i] = trigger.digits();
            asks[i] = trigger.signs().isEmpty() ? ANYTHING : 0;
            for (Trigger.Sign sign : trigger.signs()) {
                asks[i] |= all.size() < MOST_SIGNS ? 1L << all.size() : ANYTHING;
                all.add(sign);
            }
        }
        for (int i = 0; i < count; i++) {
            fewest = (asks[i] & ANYTHING) != 0 ? Math.min(fewest, digits[i]) : fewest;
        }
        this.fewestDigitsAlone = fewest;
        long behindAny = 0;
        for (int place = 0; place < Math.min(MOST_SIGNS, all.size()); place++) {
            Trigger.Sign sign = all.get(place);
            long bit = 1L << place;
            boolean isBehindAny = sign.behind().isEmpty();
            behindAny |= isBehindAny ? bit << MOST_SIGNS : 0;
            for (int c = 0; c < ASCII; c++) {
                signs[c] |= sign.characters().indexOf(c) >= 0 ? bit : 0;
                signs[c] |= isBehindAny || sign.behind().indexOf(c) >= 0 ? bit << MOST_SIGNS : 0;
            }
        }
        this.other = behindAny;
        this.shortestOfAll = least;
        for (int c = '0'; c <= '9'; c++) {
            signs[c] |= DIGIT;
        }
        this.keys = secretTreatment == null ? keys : keys.withSecretNames(secretTreatment);
        this.bySensitivity = Map.copyOf(bySensitivity);
    }

    private static int order(Rule rule) {
        int first = ORDER.indexOf(rule.detector().name());
        boolean isOwn = rule.detector() instanceof PatternDetector;
        return isOwn ? -1 : first >= 0 ? first : ORDER.size();
    }

    /** Redacts all texts of the event, and its fields by name. */
    public void redact(Draft draft) {
        if (rules.length > 0 || keys != KeyRules.NONE) {
            draft.rewrite(this, redactingValues, redactingRecurring, keys);
        }
    }

    /**
     * As above, for an event that was read.
     *
     * @param applied receives the name of a rule for each replaced value: of the detector or pattern, the name in the rule of a field,
     *     or {@code secret} for names of secrets
     */
    public void redact(Draft draft, Consumer<String> applied) {
        UnaryOperator<String> counting = text -> redact(text, hit -> applied.accept(hit.rule()));
        draft.rewrite(null, counting, counting, keys.counting(applied));
    }

    @Override
    public long id() {
        return id;
    }

    @Override
    public boolean keepsField(String name) {
        return isCleanRecurring(name, clean) && !(keys.isAboutNames() && keys.canMatch(name));
    }

    @Override
    public boolean keepsText(String value) {
        return value.length() <= SHORT ? isCleanRecurring(value, cleanValues) : isClean(value);
    }

    @Override
    public String inPlaceOf(String kind, Supplier<String> value) {
        Treatment treatment = bySensitivity.getOrDefault(kind, Treatment.FIXED);
        if (treatment == Treatment.REMOVE || treatment == Treatment.FIXED) {
            return treatment == Treatment.REMOVE ? null : treatment.treat("", kind);
        }
        try {
            return treatment.treat(value.get(), kind);
        } catch (Throwable e) {
            return withhold(e);
        }
    }

    /** Returns the text without secrets; the same object if there are none. */
    public String redact(String text) {
        return redact(text, null);
    }

    /**
     * As above.
     *
     * @param hits receives the findings in the order of the rules; null for none
     */
    public String redact(String text, Consumer<? super Hit> hits) {
        long examined = examine(text);
        if (examined == CLEAN_TEXT) {
            return text;
        }
        String redacted = text;
        for (int i = 0; i < rules.length; i++) {
            // What an earlier rule has put there adds nothing that a later one would look for.
            if (!isFor(i, text, examined)) {
                continue;
            }
            try {
                redacted = replaced(redacted, rules[i], hits);
            } catch (Throwable e) {
                return withhold(e);
            }
        }
        return redacted;
    }

    /** Returns the bits of the signs in a text, and the number of its digits in the upper half; or CLEAN_TEXT. */
    private long examine(String text) {
        int length = text.length();
        if (length < shortestOfAll) {
            return CLEAN_TEXT;
        }
        long has = 0;
        long before = other;
        long digitsOfText = 0;
        for (int i = 0; i < length; i++) {
            char c = text.charAt(i);
            long sign = c < ASCII ? signs[c] : Character.isDigit(c) ? other | DIGIT : other;
            has |= sign & before >>> MOST_SIGNS;
            before = sign;
            digitsOfText += sign >>> Long.SIZE - 1;
        }
        has = has & ALL_SIGNS | ANYTHING;
        return has == ANYTHING && digitsOfText < fewestDigitsAlone ? CLEAN_TEXT : has | digitsOfText << Integer.SIZE;
    }

    /** Returns whether the detector of a rule can find something in a text. */
    private boolean isFor(int rule, String text, long examined) {
        return text.length() >= shortest[rule]
                && examined >>> Integer.SIZE >= digits[rule]
                && (examined & asks[rule]) != 0;
    }

    /** Returns whether no detector finds anything. If one fails, that is reported and counted when the text is redacted. */
    private boolean isClean(String text) {
        long examined = examine(text);
        if (examined == CLEAN_TEXT) {
            return true;
        }
        try {
            for (int i = 0; i < rules.length; i++) {
                if (isFor(i, text, examined) && rules[i].detector().find(text, 0) != Detector.NOTHING) {
                    return false;
                }
            }
            return true;
        } catch (Throwable e) {
            FailurePolicy.contain(e);
            return false;
        }
    }

    private String withhold(Throwable problem) {
        withheld.increment();
        FailurePolicy.contain(problem);
        return WITHHELD;
    }

    /** Returns the number of texts that were withheld because a detector or treatment failed. */
    public long withheld() {
        return withheld.sum() + keys.withheld();
    }

    /** As {@link #redact(String)}, for a text that probably recurs as the same object. */
    private String redactRecurring(String text, String[] known) {
        return isCleanRecurring(text, known) ? text : redact(text);
    }

    private boolean isCleanRecurring(String text, String[] known) {
        int hash = text.hashCode();
        int place = (hash ^ hash >>> 16) & CLEAN - 1;
        if (known[place] == text) {
            return true;
        }
        boolean isClean = isClean(text);
        if (isClean && text.length() <= LONGEST_CLEAN) {
            known[place] = text;
        }
        return isClean;
    }

    /**
     * A finding.
     *
     * @param rule the name of the detector
     * @param secret the secret
     * @param instead its replacement
     */
    public record Hit(String rule, String secret, String instead) {
        /** Without the secret. */
        @Override
        public String toString() {
            return rule + " replaced by " + instead;
        }
    }

    private static String replaced(String text, Rule rule, Consumer<? super Hit> hits) {
        Detector detector = rule.detector();
        long range = detector.find(text, 0);
        if (range == Detector.NOTHING) {
            return text;
        }
        StringBuilder result = new StringBuilder(text.length());
        int copied = 0;
        while (range != Detector.NOTHING) {
            int from = (int) (range >>> 32);
            String secret = text.substring(from, (int) range);
            boolean isTreated = Treated.isAll(secret);
            String instead = isTreated ? secret : rule.treatment().treat(secret, detector.name());
            result.append(text, copied, from).append(instead);
            if (hits != null && !isTreated) {
                hits.accept(new Hit(detector.name(), secret, instead));
            }
            copied = (int) range;
            range = detector.find(text, copied);
        }
        return result.append(text, copied, text.length()).toString();
    }
}
