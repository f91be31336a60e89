package dev.graphema.query.source;

import dev.graphema.query.answer.Coverage.Place;
import dev.graphema.query.answer.Coverage.Problem;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** Counts problems by reason and keeps their first places. For one thread. */
final class Problems {
    /** Further reasons are counted with the last one. */
    private static final int MOST_REASONS = 100;

    private static final String OTHERS = "other reasons";
    private static final Comparator<Place> ORDER =
            Comparator.comparing(Place::source).thenComparing(Place::line);

    private final Map<String, Places> reasons = new LinkedHashMap<>();

    private static final class Places {
        private final List<Place> first = new ArrayList<>();
        private long count;
    }

    void add(String source, long line, String reason) {
        Places places = of(reason);
        places.count++;
        if (places.first.size() < CoverageBuilder.MOST_PLACES) {
            places.first.add(new Place(source, line, reason));
        }
    }

    void add(Problem problem) {
        Places places = of(problem.reason());
        places.count += problem.count();
        problem.places().stream()
                .limit(Math.max(0, CoverageBuilder.MOST_PLACES - places.first.size()))
                .forEach(places.first::add);
        places.first.sort(ORDER);
    }

    private Places of(String reason) {
        boolean isListed = reasons.containsKey(reason) || reasons.size() < MOST_REASONS;
        return reasons.computeIfAbsent(isListed ? reason : OTHERS, none -> new Places());
    }

    void clear() {
        reasons.clear();
    }

    /** Returns the problems, the most frequent ones first. */
    List<Problem> list() {
        List<Problem> list = new ArrayList<>();
        reasons.forEach((reason, places) -> list.add(new Problem(reason, places.count, places.first)));
        list.sort(Comparator.comparingLong(Problem::count).reversed().thenComparing(Problem::reason));
        return list;
    }
}
