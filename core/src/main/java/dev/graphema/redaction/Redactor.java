package dev.graphema.redaction;

import dev.graphema.event.Draft;
import dev.graphema.event.Nearest;
import dev.graphema.event.SensitiveValues;
import dev.graphema.failure.FailurePolicy;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.atomic.LongAdder;
import java.util.function.Consumer;
import java.util.function.Supplier;
import java.util.function.UnaryOperator;

/**
 * Replaces secrets in everything that an event says: message, thread, names and values of fields at any depth, messages of
 * failures. Safe to share between threads.
 *
 * <p>One pass over a text tells which detectors need look at it; most texts are done with that. What is found is replaced by
 * {@code [redacted payment-card]}, or as the rule's treatment says. When a detector or treatment fails, the whole text is withheld:
 * nothing passes that was not looked at. Redacting twice changes nothing more.
 */
public final class Redactor implements SensitiveValues {
    /** Hides nothing. */
    public static final Redactor NONE = new Redactor(List.of());

    static final String WITHHELD = "[withheld: redaction failed]";

    private static final List<Detector> READY = List.of(
            new PaymentCards(),
            new Ibans(),
            new MailAddresses(),
            new Tokens(),
            new NationalIds(),
            new NamedSecrets(),
            new UrlSecrets(),
            new PrivateKeys(),
            new Telephones(),
            new IpAddresses());

    /** Addresses of hosts, and what looks like a telephone number, are wanted in many logs. */
    private static final Set<String> ON_REQUEST = Set.of("telephone", "ip");

    /** What may hold other secrets is looked for before these; a pattern of the developer's own before all. */
    private static final List<String> ORDER = List.of("url", "private-key", "secret", "token", "iban");

    /** Of a character: it is a digit. */
    private static final long DIGIT = 1L << 63;

    private static final int MOST_SIGNS = 31;

    /** Stands for what every text has, and for the signs that are too many to have a bit of their own. */
    private static final long ANYTHING = 1L << MOST_SIGNS;

    private static final long ALL_SIGNS = ANYTHING - 1;

    static final int ASCII = 128;

    /** How many texts that recur are remembered to be clean, and how long they may be. */
    private static final int CLEAN = 1024;

    private static final int LONGEST_CLEAN = 256;

    /** How long a value may be that is looked for among the clean ones: finding its place takes a look at each character when it is new. */
    private static final int SHORT = 24;

    private final LongAdder withheld = new LongAdder();
    private final Rule[] rules;
    private final KeyRules keys;
    private final Map<String, Treatment> bySensitivity;

    // What each rule's detector asks of a text: its length, so many digits, and one of these bits.
    private final int[] shortest;
    private final int[] digits;
    private final long[] asks;
    private final int shortestOfAll;

    /** Among those that ask for digits alone. */
    private final int fewestDigitsAlone;

    /** For each ASCII character the bits of the signs that it may be, and, {@link #MOST_SIGNS} bits higher, of those that the next character may be. */
    private final long[] signs = new long[ASCII];

    /** What stands for the character before the first one, and for all that are not ASCII. */
    private final long other;

    /**
     * Texts in which nothing was found, each at the place that its hash says: messages, names of fields and threads come again and again as the same object.
     * Threads write here as they like; who sees an older state looks through the text once more.
     */
    private final String[] clean = new String[CLEAN];

    /** The same for short values, of which many come again with each event of a request; apart, so that those that do not leave the others alone. */
    private final String[] cleanValues = new String[CLEAN];

    private final UnaryOperator<String> redactingValues =
            text -> text.length() <= SHORT ? redactRecurring(text, cleanValues) : redact(text);
    private final UnaryOperator<String> redactingRecurring = text -> redactRecurring(text, clean);

    /** What is looked for, and what is put in its place. */
    public record Rule(Detector detector, Treatment treatment) {}

    /** By those detectors, with fixed texts. */
    public Redactor(List<Detector> detectors) {
        this(
                detectors.stream()
                        .map(detector -> new Rule(detector, Treatment.FIXED))
                        .toList(),
                KeyRules.NONE,
                Map.of());
    }

    /**
     * By those rules.
     *
     * @param keys what is done about fields by their names, before anything is looked for in their values; where the
     *     detector {@code secret} is among the rules, fields whose names are those that it looks for are treated as its rule
     *     says, unless one of these says otherwise
     * @param bySensitivity what is put in the place of values of sensitive keys, by the kind of secret; the fixed text for others
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

    /** The names of the ready detectors. */
    public static List<String> readyDetectors() {
        return READY.stream().map(Detector::name).toList();
    }

    /** The names of those that are on when nothing is set. */
    public static List<String> usualDetectors() {
        return readyDetectors().stream()
                .filter(name -> !ON_REQUEST.contains(name))
                .toList();
    }

    /**
     * The ready detector of that name.
     *
     * @throws IllegalArgumentException when there is none; the message lists those that there are
     */
    public static Detector readyDetector(String name) {
        return READY.stream()
                .filter(detector -> detector.name().equals(name))
                .findFirst()
                .orElseThrow(() -> new IllegalArgumentException("no detector is called \"" + name
                        + "\": expected one of " + String.join(", ", readyDetectors())
                        + Nearest.hint(name, readyDetectors())));
    }

    /** Redacts every text of the event, and its fields by their names. */
    public void redact(Draft draft) {
        if (rules.length > 0 || keys != KeyRules.NONE) {
            draft.rewrite(redactingValues, redactingRecurring, keys);
        }
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

    /** The text without its secrets; the same object when there are none. */
    public String redact(String text) {
        return redact(text, null);
    }

    /** As above. @param hits takes what each rule found, in the order of the rules; null for nobody */
    public String redact(String text, Consumer<? super Hit> hits) {
        int length = text.length();
        if (length < shortestOfAll) {
            return text;
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
        if (has == ANYTHING && digitsOfText < fewestDigitsAlone) {
            return text;
        }
        String redacted = text;
        for (int i = 0; i < rules.length; i++) {
            // What an earlier rule has put there adds nothing that a later one would look for.
            if (length < shortest[i] || digitsOfText < digits[i] || (has & asks[i]) == 0) {
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

    private String withhold(Throwable problem) {
        withheld.increment();
        FailurePolicy.contain(problem);
        return WITHHELD;
    }

    /** How many texts were withheld because a detector or treatment failed. */
    public long withheld() {
        return withheld.sum() + keys.withheld();
    }

    /** As {@link #redact(String)}, for a text that is likely to come again as the same object. */
    private String redactRecurring(String text, String[] known) {
        int hash = text.hashCode();
        int place = (hash ^ hash >>> 16) & CLEAN - 1;
        if (known[place] == text) {
            return text;
        }
        String redacted = redact(text);
        if (redacted == text && text.length() <= LONGEST_CLEAN) {
            known[place] = text;
        }
        return redacted;
    }

    /**
     * What one rule found.
     *
     * @param rule the detector's name
     * @param secret what it found
     * @param instead what was put in its place
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
