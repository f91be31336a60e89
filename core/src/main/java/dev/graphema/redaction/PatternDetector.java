package dev.graphema.redaction;

import com.google.re2j.Matcher;
import com.google.re2j.Pattern;
import com.google.re2j.PatternSyntaxException;
import java.util.Objects;
import java.util.function.Predicate;

/**
 * A custom pattern (RE2 syntax, linear time). It runs only on texts that contain a substring, which is near every
 * match.
 */
public final class PatternDetector implements Detector {
    private final String name;
    private final String when;
    private final Pattern pattern;
    private final Predicate<String> check;

    private PatternDetector(String name, String when, Pattern pattern, Predicate<String> check) {
        this.name = name;
        this.when = when;
        this.pattern = pattern;
        this.check = check;
    }

    /**
     * Creates a detector.
     *
     * @param name the name in messages and results
     * @param find the pattern; the secret is its first group, or else the whole match
     * @param when a substring that a text must contain, or "" for every text
     * @throws IllegalArgumentException if the pattern is invalid, or matches an empty text
     */
    public static PatternDetector of(String name, String find, String when) {
        try {
            Pattern pattern = Pattern.compile(find);
            if (pattern.matcher("").matches()) {
                throw new IllegalArgumentException(
                        "the pattern \"" + find + "\" matches an empty text: expected one that asks for something");
            }
            return new PatternDetector(name, when, pattern, match -> true);
        } catch (PatternSyntaxException e) {
            throw new IllegalArgumentException("\"" + find + "\" is not a valid pattern: " + e.getDescription());
        }
    }

    /**
     * Returns the detector with a check, such as that of a check digit, which a match must pass.
     *
     * @param check called on the emitting thread; must be linear in the length of the match
     */
    public PatternDetector checked(Predicate<String> check) {
        return new PatternDetector(name, when, pattern, Objects.requireNonNull(check, "check"));
    }

    @Override
    public String name() {
        return name;
    }

    @Override
    public int shortest() {
        return 1;
    }

    @Override
    public Trigger trigger() {
        return when.isEmpty() || when.charAt(0) >= 128 ? Trigger.ALWAYS : Trigger.anyOf(when.substring(0, 1));
    }

    @Override
    public long find(String text, int from) {
        // Asked once for a text: later calls come only when the first one has found something.
        if (from == 0 && !when.isEmpty() && !text.contains(when)) {
            return NOTHING;
        }
        Matcher matcher = pattern.matcher(text);
        for (int at = from; at <= text.length() && matcher.find(at); at = Math.max(at + 1, matcher.end())) {
            int group = matcher.groupCount() > 0 && matcher.start(1) >= 0 ? 1 : 0;
            if (matcher.end(group) > matcher.start(group) && check.test(matcher.group(group))) {
                return Detector.range(matcher.start(group), matcher.end(group));
            }
        }
        return NOTHING;
    }

    /** The pattern, without the name. */
    @Override
    public String toString() {
        return pattern.pattern() + (when.isEmpty() ? "" : " where " + when);
    }
}
