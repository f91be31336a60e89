package dev.graphema.sink;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/**
 * The file names of a sink. The current file has the name in the settings. An archived file has the time of archiving,
 * in UTC, before its extension: {@code deck.jsonl} becomes {@code deck.20260515T063102Z.jsonl}, and {@code .gz} is
 * appended after compression. Files that are archived in the same second are numbered. Files of others do not match
 * these names.
 */
final class FileNames {
    static final String GZIP = ".gz";
    static final String UNFINISHED = ".part";

    private static final String DATE = "{date}";

    private final Path folder;
    private final String beginning;
    private final String ending;
    private final Pattern putAside;
    private final List<String> extensions;

    /** A clock that goes back by less was only adjusted. */
    private static final Duration SET_BACK = Duration.ofMinutes(1);

    // The moment and number of the name that was given last.
    private Instant lastGiven = Instant.MIN;
    private int lastNumber;

    /** @param extensions the ends of the names of compressed files */
    FileNames(Path path, List<String> extensions) {
        this.extensions = List.copyOf(extensions);
        String name = path.getFileName().toString();
        int dot = name.lastIndexOf('.');
        boolean hasEnding = dot > 0 && dot > name.lastIndexOf('}');
        folder = path.toAbsolutePath().getParent();
        beginning = hasEnding ? name.substring(0, dot) : name;
        ending = hasEnding ? name.substring(dot) : "";
        String anyDate = Pattern.quote(beginning).replace(DATE, "\\E\\d{4}-\\d{2}-\\d{2}\\Q");
        putAside = Pattern.compile(anyDate + "\\.(\\d{8}T\\d{6}Z)(?:-(\\d{1,9}))?" + Pattern.quote(ending) + "("
                + extensions.stream().map(Pattern::quote).collect(Collectors.joining("|")) + ")?");
    }

    private static String moment(Instant now) {
        return now.toString().replace("-", "").replace(":", "");
    }

    Path folder() {
        return folder;
    }

    /** Returns whether the name contains the date. */
    boolean hasDate() {
        return beginning.contains(DATE);
    }

    /**
     * Returns the file of a day.
     *
     * @param number from 1; 2 and more for processes that find the file in use
     */
    Path current(LocalDate day, int number) {
        String name = beginning.replace(DATE, day.toString());
        return folder.resolve(name + (number == 1 ? "" : "." + number) + ending);
    }

    /** Returns whether the clock was set back between two times. */
    static boolean isSetBack(Instant before, Instant now) {
        return before != Instant.MIN && now.isBefore(before.minus(SET_BACK));
    }

    /**
     * Returns an unused name for a file that is archived now. It sorts after all names that were returned before, also
     * if the clock was adjusted.
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
        } while (isTaken(free));
        return free;
    }

    private boolean isTaken(Path name) {
        return Files.exists(name) || extensions.stream().anyMatch(each -> Files.exists(Path.of(name + each)));
    }

    /**
     * Returns the archived files of the sink, the oldest first. A file with a time in the future was archived before
     * the clock was set back, and is older than all others.
     *
     * @param clock read after the folder, since otherwise a file that is archived between the two might be in the future
     */
    List<Path> putAside(InstantSource clock) throws IOException {
        List<Path> archived = new ArrayList<>();
        try (Stream<Path> files = Files.list(folder)) {
            files.filter(file -> putAside.matcher(file.getFileName().toString()).matches())
                    .forEach(archived::add);
        }
        String future = moment(clock.instant().plus(SET_BACK).truncatedTo(ChronoUnit.SECONDS));
        archived.sort(Comparator.comparing((Path file) -> momentOf(file).compareTo(future) <= 0)
                .thenComparing(this::momentOf)
                .thenComparingInt(this::numberOf));
        return archived;
    }

    private String momentOf(Path archived) {
        return part(archived, 1);
    }

    /** Returns the number of a file among those archived in the same second. */
    private int numberOf(Path archived) {
        String number = part(archived, 2);
        return number == null ? 0 : Integer.parseInt(number);
    }

    private String part(Path archived, int group) {
        Matcher matcher = putAside.matcher(archived.getFileName().toString());
        return matcher.matches() ? matcher.group(group) : null;
    }

    boolean isCompressed(Path file) {
        return part(file, 3) != null;
    }
}
