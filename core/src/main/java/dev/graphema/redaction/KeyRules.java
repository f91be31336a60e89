package dev.graphema.redaction;

import dev.graphema.event.FieldRewriter;
import dev.graphema.failure.FailurePolicy;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.atomic.LongAdder;
import java.util.function.Consumer;
import java.util.regex.Pattern;

/**
 * Rules for fields by name. A name without a dot, {@code password}, matches at any depth; one with dots, {@code
 * passenger.email}, matches the end of a path. {@code *} matches anything within a part. Case, {@code _}, {@code -} and
 * spaces are ignored. The first matching rule applies. Immutable and thread-safe.
 *
 * <p>Names of secrets ({@link SecretNames}) may have a treatment without a rule; a rule with {@link Treatment#KEEP}
 * makes an exception. Booleans are not secrets by their name.
 */
public final class KeyRules implements FieldRewriter {
    /** No rules. */
    public static final KeyRules NONE = new KeyRules(Map.of(), null);

    /** The most paths whose rule is cached; names are constants of the program, so there are few. */
    private static final int MOST_REMEMBERED = 4096;

    private static final int HARMLESS = 1024;

    private static final KeyRule NO_RULE = new KeyRule(null, null, null, null);

    private final LongAdder withheld = new LongAdder();
    private final List<KeyRule> rules = new ArrayList<>();
    private final Map<String, KeyRule> byPath = new ConcurrentHashMap<>();

    /**
     * A cache of names that cannot match, indexed by hash: names recur as the same objects. Threads write without
     * synchronization; a thread that reads an old entry only looks the name up.
     */
    private final String[] harmless = new String[HARMLESS];

    /** Caches whether a field with this name can match. */
    private final Map<String, Boolean> byName = new ConcurrentHashMap<>();

    /** @param last matches the last part of the path */
    private record KeyRule(String name, Pattern path, Pattern last, Treatment treatment) {
        KeyRule(String name, Treatment treatment) {
            this(name, pattern(name), pattern(name.substring(name.lastIndexOf('.') + 1)), treatment);
        }
    }

    /** The treatment of fields with names of secrets; null for none. */
    private final KeyRule secret;

    private KeyRules(Map<String, Treatment> treatments, Treatment ofSecrets) {
        treatments.forEach((name, treatment) -> rules.add(new KeyRule(name, treatment)));
        secret = ofSecrets == null ? null : new KeyRule("secret", null, null, ofSecrets);
    }

    /** Creates rules in their order: the name or path, and the treatment. */
    public static KeyRules of(Map<String, Treatment> treatments) {
        return treatments.isEmpty() ? NONE : new KeyRules(new LinkedHashMap<>(treatments), null);
    }

    /** Returns the rules, followed by one for names of secrets. */
    KeyRules withSecretNames(Treatment treatment) {
        Map<String, Treatment> own = new LinkedHashMap<>();
        rules.forEach(rule -> own.put(rule.name(), rule.treatment()));
        return new KeyRules(own, treatment);
    }

    private static Pattern pattern(String name) {
        StringBuilder pattern = new StringBuilder("(?:.*\\.)?");
        for (char c : plain(name).toCharArray()) {
            pattern.append(c == '*' ? "[^.]*" : Pattern.quote(String.valueOf(c)));
        }
        return Pattern.compile(pattern.toString());
    }

    /** Returns the name in lower case, without separators of words. */
    private static String plain(String path) {
        return path.toLowerCase(Locale.ROOT).replaceAll("[_\\- ]", "");
    }

    @Override
    public boolean isAboutNames() {
        return !rules.isEmpty() || secret != null;
    }

    @Override
    public boolean canMatch(String name) {
        int hash = name.hashCode();
        int place = (hash ^ hash >>> 16) & HARMLESS - 1;
        if (harmless[place] == name) {
            return false;
        }
        boolean can = examine(name);
        if (!can) {
            harmless[place] = name;
        }
        return can;
    }

    private boolean examine(String name) {
        Boolean known = byName.get(name);
        if (known == null) {
            String plain = plain(name);
            known = secret != null && isNameOfSecret(name)
                    || rules.stream()
                            .anyMatch(rule -> rule.last().matcher(plain).matches());
            if (byName.size() < MOST_REMEMBERED) {
                byName.put(name, known);
            }
        }
        return known;
    }

    private static boolean isNameOfSecret(String path) {
        return SecretNames.isSecret(path.substring(path.lastIndexOf('.') + 1));
    }

    @Override
    public boolean matches(String path) {
        return rule(path) != NO_RULE;
    }

    @Override
    public boolean matchesBoolean(String path) {
        KeyRule rule = rule(path);
        return rule != NO_RULE && rule != secret;
    }

    @Override
    public boolean removes(String path) {
        return rule(path).treatment() == Treatment.REMOVE;
    }

    @Override
    public String value(String path, String value) {
        KeyRule rule = rule(path);
        if (Treated.isAll(value)) {
            return value;
        }
        try {
            return rule.treatment().treat(value, rule.name());
        } catch (Throwable e) {
            withheld.increment();
            FailurePolicy.contain(e);
            return Redactor.WITHHELD;
        }
    }

    /** Returns a rewriter that passes on the name of the rule of each changed field. */
    FieldRewriter counting(Consumer<String> applied) {
        KeyRules rules = this;
        return new FieldRewriter() {
            @Override
            public boolean isAboutNames() {
                return rules.isAboutNames();
            }

            @Override
            public boolean canMatch(String name) {
                return rules.canMatch(name);
            }

            @Override
            public boolean matches(String path) {
                return rules.matches(path);
            }

            @Override
            public boolean matchesBoolean(String path) {
                return rules.matchesBoolean(path);
            }

            @Override
            public boolean removes(String path) {
                boolean removes = rules.removes(path);
                if (removes) {
                    applied.accept(rule(path).name());
                }
                return removes;
            }

            @Override
            public String value(String path, String value) {
                String instead = rules.value(path, value);
                if (!instead.equals(value)) {
                    applied.accept(rule(path).name());
                }
                return instead;
            }
        };
    }

    /** Returns the number of values that were withheld because a treatment failed. */
    long withheld() {
        return withheld.sum();
    }

    private KeyRule rule(String path) {
        KeyRule known = byPath.get(path);
        if (known != null) {
            return known;
        }
        String plain = plain(path);
        for (KeyRule rule : rules) {
            if (rule.path().matcher(plain).matches()) {
                return remembered(path, rule.treatment() == Treatment.KEEP ? NO_RULE : rule);
            }
        }
        boolean isSecret = secret != null && isNameOfSecret(path);
        return remembered(path, isSecret ? secret : NO_RULE);
    }

    private KeyRule remembered(String path, KeyRule found) {
        if (byPath.size() < MOST_REMEMBERED) {
            byPath.put(path, found);
        }
        return found;
    }
}
