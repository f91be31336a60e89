package dev.graphema.query.answer;

import java.time.Duration;
import java.util.List;
import java.util.Objects;

/**
 * What was read for an answer, and what was not. Immutable.
 *
 * @param files the number of files; 0 for sources without files
 * @param events the number of events before condition and window were applied; an event that was excluded without being
 *     read counts, too
 * @param bytes the number of read bytes; for compressed files, of compressed bytes; 0 for sources without bytes
 * @param totalBytes the number of bytes to read; 0 if unknown
 * @param unreadable the lines, messages or rows that are not events, by reason
 * @param damaged the events that could be read only in part, by reason
 * @param failures the files, tables or services that could not be read completely; the answer may lack their events
 * @param truncated why the answer is limited, a sentence for each reason; empty if it is complete
 * @param isEstimate whether sampled events were counted, so that counts are estimates
 * @param isStopped whether reading was stopped before the end
 * @param elapsed the time from the question to the answer
 */
public record Coverage(
        long files,
        long events,
        long bytes,
        long totalBytes,
        List<Problem> unreadable,
        List<Problem> damaged,
        List<Place> failures,
        List<String> truncated,
        boolean isEstimate,
        boolean isStopped,
        Duration elapsed) {
    public Coverage {
        unreadable = List.copyOf(unreadable);
        damaged = List.copyOf(damaged);
        failures = List.copyOf(failures);
        truncated = List.copyOf(truncated);
        Objects.requireNonNull(elapsed, "elapsed");
    }

    /** Returns the number of lines, messages or rows that are not events. */
    public long unreadableCount() {
        return count(unreadable);
    }

    /** Returns the number of events that could be read only in part. */
    public long damagedCount() {
        return count(damaged);
    }

    private static long count(List<Problem> problems) {
        return problems.stream().mapToLong(Problem::count).sum();
    }

    /**
     * Lines, messages or rows with the same problem.
     *
     * @param reason what is wrong with them
     * @param count their number
     * @param places the first of them
     */
    public record Problem(String reason, long count, List<Place> places) {
        public Problem {
            places = List.copyOf(places);
        }
    }

    /**
     * A place in a source, and what is wrong there.
     *
     * @param source the file, or the name of another source
     * @param line the number of the line, counted from 1; 0 for the whole source
     * @param reason what was expected
     */
    public record Place(String source, long line, String reason) {
        @Override
        public String toString() {
            return source + (line == 0 ? ": " : ":" + line + ": ") + reason;
        }
    }
}
