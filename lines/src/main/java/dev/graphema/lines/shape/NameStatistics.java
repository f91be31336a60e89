package dev.graphema.lines.shape;

import dev.graphema.event.Level;
import dev.graphema.lines.time.TimeReader;
import java.math.BigDecimal;
import java.util.Set;
import java.util.TreeSet;

/** What the values of a name in the first lines of a log look like. For one thread. */
final class NameStatistics {
    /** A value must look the same in this share of its lines. */
    private static final double MOST = 0.95;

    private static final double MOSTLY = 0.9;

    /** A name of an attribute is in this share of the lines. */
    private static final double COMMON = 0.75;

    private static final int LONGEST_WORD = 12;
    private static final int LONGEST_EXAMPLE = 80;
    private static final String LETTERS_OF_LEVELS = "TVDINWEFCP";

    private static final long LEAST_EPOCH_NANOS = 1_000_000_000_000_000_000L; // 2001

    private final String name;
    private String example;
    private long count;
    private long times;
    private long numbers;
    private long ascents;
    private long last = Long.MIN_VALUE;
    private long levels;
    private long letters;
    private long sentences;
    private long words;
    private final Set<String> levelsSeen = new TreeSet<>();

    NameStatistics(String name) {
        this.name = name;
    }

    String name() {
        return name;
    }

    long count() {
        return count;
    }

    /** Returns the first value as text. */
    String example() {
        return example;
    }

    /** Adds a value: text, a number, or anything else. */
    void add(Object value, TimeReader reader) {
        count++;
        if (example == null && value != null) {
            example = shortened(value.toString());
        }
        if (value instanceof String text) {
            Long time = reader.parse(text);
            if (time != null && text.indexOf(':') > 0) {
                times++;
                time(time);
            }
            word(text);
            sentence(text);
        } else if (value instanceof Number number) {
            Long time = TimeReader.ofNumber(new BigDecimal(number.toString()));
            if (time != null && time >= LEAST_EPOCH_NANOS) {
                numbers++;
                time(time);
            }
        }
    }

    private static String shortened(String text) {
        return text.length() <= LONGEST_EXAMPLE ? text : text.substring(0, LONGEST_EXAMPLE) + "…";
    }

    private void time(long nanos) {
        ascents += nanos >= last ? 1 : 0;
        last = nanos;
    }

    private void word(String text) {
        if (text.length() > LONGEST_WORD || levelsSeen.size() > 20) {
            return;
        }
        if (Levels.isWord(text)) {
            levels++;
            levelsSeen.add(text);
        } else if (text.length() <= 2 && LETTERS_OF_LEVELS.indexOf(text.isEmpty() ? 0 : text.charAt(0)) >= 0) {
            letters++;
            levelsSeen.add(text);
        }
    }

    /** A sentence has at least two words of letters, which are most of its words. */
    private void sentence(String text) {
        int all = 0;
        int ofLetters = 0;
        for (String word : text.length() > 300 ? text.substring(0, 300).split(" +") : text.split(" +")) {
            all++;
            ofLetters += word.matches("[(\"']?\\p{L}[\\p{L}'-]*[.,:;!?)\"']*") ? 1 : 0;
        }
        if (ofLetters >= 2 && ofLetters * 2 >= all) {
            sentences++;
            words += all;
        }
    }

    /** Returns whether the values are texts of times in ascending order, in nearly all lines. */
    boolean isTime(long lines) {
        return isCommon(lines) && times >= MOST * count && ascents >= MOSTLY * count;
    }

    /** Returns whether the values are numbers that are times since 2001 in ascending order, in nearly all lines. */
    boolean isEpoch(long lines) {
        return count >= 3 && isCommon(lines) && numbers >= MOST * count && ascents >= MOSTLY * count;
    }

    /**
     * Returns whether the values are levels, in nearly all lines: words, one of which is not that of a problem, or
     * letters, one of which is that of an ordinary event.
     */
    boolean isLevel(long lines) {
        if (count < 3 || !isCommon(lines)) {
            return false;
        }
        boolean isOrdinary = levelsSeen.stream()
                .map(each -> Levels.of(name, each))
                .anyMatch(level -> level != null && level.compareTo(Level.WARN) < 0);
        return isOrdinary && (levels >= MOST * count || letters >= MOST * count && levelsSeen.contains("I"));
    }

    /** Returns the mean number of words if most values are sentences; else 0. */
    double sentenceWords(long lines) {
        return count * 2 >= lines && sentences * 2 >= count ? (double) words / sentences : 0;
    }

    private boolean isCommon(long lines) {
        return count >= COMMON * lines;
    }
}
