package dev.graphema.query.answer;

import java.util.List;

/**
 * The traces with an id that begins with given digits, or all events about a value. Immutable.
 *
 * @param trails none if there is no event, several if the digits are ambiguous
 * @param coverage what was read
 */
public record Trails(List<Trail> trails, Coverage coverage) implements Answer {
    public Trails {
        trails = List.copyOf(trails);
    }
}
