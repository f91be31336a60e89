package dev.graphema.sink;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import java.util.Comparator;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;

/**
 * The names of one sink's files. The one that is written is called as the settings say; one that was put aside has the
 * moment, in UTC, before its ending: {@code deck.jsonl} becomes {@code deck.20260515T063102Z.jsonl}, and {@code .gz} behind
 * it once it is compressed. Several within one second are numbered. No file of anybody else is mistaken for one of these.
 */
final class FileNames {
    static final String COMPRESSED = ".gz";
    static final String UNFINISHED = ".part";

    private static final String DATE = "{date}";

    private final Path folder;
    private final String beginning;
    private final String ending;
    private final Pattern putAside;

    /** From how much on a clock was set back, and was not just put right a little. */
    private static final Duration SET_BACK = Duration.ofMinutes(1);

    // The moment and number of the name that was given last.
    private Instant lastGiven = Instant.MIN;
    private int lastNumber;

    FileNames(Path path) {
        String name = path.getFileName().toString();
        int dot = name.lastIndexOf('.');
        boolean hasEnding = dot > 0 && dot > name.lastIndexOf('}');
        folder = path.toAbsolutePath().getParent();
        beginning = hasEnding ? name.substring(0, dot) : name;
        ending = hasEnding ? name.substring(dot) : "";
        String anyDate = Pattern.quote(beginning).replace(DATE, "\\E\\d{4}-\\d{2}-\\d{2}\\Q");
        putAside = Pattern.compile(anyDate + "\\.(\\d{8}T\\d{6}Z)(?:-(\\d{1,9}))?" + Pattern.quote(ending) + "("
                + Pattern.quote(COMPRESSED) + ")?");
    }

    private static String moment(Instant now) {
        return now.toString().replace("-", "").replace(":", "");
    }

    Path folder() {
        return folder;
    }

    /** Whether each day has a file of its own. */
    boolean hasDate() {
        return beginning.contains(DATE);
    }

    /** The file to write on that day. @param number from 1; 2 and more for processes that find the file taken */
    Path current(LocalDate day, int number) {
        String name = beginning.replace(DATE, day.toString());
        return folder.resolve(name + (number == 1 ? "" : "." + number) + ending);
    }

    /** Whether the clock was set back between the first moment and the second. */
    static boolean isSetBack(Instant before, Instant now) {
        return before != Instant.MIN && now.isBefore(before.minus(SET_BACK));
    }

    /**
     * A free name for a file that is archived now. It sorts behind all names that were given before, also when the clock has
     * been set back.
     */
    Path aside(Path current, Instant now) {
        Instant second = now.truncatedTo(ChronoUnit.SECONDS);
        if (second.isAfter(lastGiven) || isSetBack(lastGiven, now)) {
            lastGiven = second;
            lastNumber = -1;
        }
        String name = current.getFileName().toString();
        String stem = name.substring(0, name.length() - ending.length()) + "." + moment(lastGiven);
        Path free;
        do {
            lastNumber++;
            free = folder.resolve(stem + (lastNumber == 0 ? "" : "-" + lastNumber) + ending);
        } while (Files.exists(free) || Files.exists(Path.of(free + COMPRESSED)));
        return free;
    }

    /**
     * The sink's own files that were put aside, the oldest first. One whose name tells a moment that is still to come was
     * archived before the clock was set back, and is older than all others.
     */
    List<Path> putAside(Instant now) throws IOException {
        String future = moment(now.plus(SET_BACK).truncatedTo(ChronoUnit.SECONDS));
        try (Stream<Path> files = Files.list(folder)) {
            return files.filter(file ->
                            putAside.matcher(file.getFileName().toString()).matches())
                    .sorted(Comparator.comparing((Path file) -> momentOf(file).compareTo(future) <= 0)
                            .thenComparing(this::momentOf)
                            .thenComparingInt(this::numberOf))
                    .toList();
        }
    }

    private String momentOf(Path archived) {
        return part(archived, 1);
    }

    /** The place among files that were archived within the same second. */
    private int numberOf(Path archived) {
        String number = part(archived, 2);
        return number == null ? 0 : Integer.parseInt(number);
    }

    private String part(Path archived, int group) {
        Matcher matcher = putAside.matcher(archived.getFileName().toString());
        return matcher.matches() ? matcher.group(group) : null;
    }

    static boolean isCompressed(Path file) {
        return file.getFileName().toString().endsWith(COMPRESSED);
    }
}
