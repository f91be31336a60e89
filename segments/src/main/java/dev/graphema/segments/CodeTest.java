package dev.graphema.segments;

import dev.graphema.condition.Condition;
import dev.graphema.condition.Expression;
import dev.graphema.condition.Name;
import dev.graphema.event.Attribute;
import dev.graphema.query.row.ProjectedValues;
import dev.graphema.query.row.Projection;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * A part of a condition that depends on one name only, tested once for each different value of a group. Events with the value
 * have the same result, so most of them need not be read. For one thread.
 */
final class CodeTest {
    private static final byte UNKNOWN = 0;
    private static final byte POSSIBLE = 1;
    private static final byte EXCLUDED = 2;

    private final Condition part;
    private final int index;
    private final ProjectedValues single;
    private byte forMissing;

    /** By code: what is known. */
    private byte[] results = {};

    private CodeTest(Condition part, Name name, int index) {
        this.part = part;
        this.index = index;
        this.single = new ProjectedValues(Projection.of(List.of(name)), () -> 0);
    }

    /** Returns the tests of a condition, all of which an event must pass. */
    static List<CodeTest> of(Condition condition, Projection projection) {
        List<CodeTest> tests = new ArrayList<>();
        for (Expression part : parts(condition.expression())) {
            Condition alone = Condition.of(part);
            boolean isOfOneName =
                    alone.names().size() == 1 && !Projection.of(alone).isAll();
            Name name = isOfOneName ? alone.names().iterator().next() : null;
            // Time and weight are not values of a column only.
            if (isOfOneName && name.attribute() != Attribute.TIME && name.attribute() != Attribute.WEIGHT) {
                tests.add(new CodeTest(alone, name, projection.listed().indexOf(name)));
            }
        }
        return tests;
    }

    private static List<Expression> parts(Expression expression) {
        return expression instanceof Expression.And and
                ? and.parts().stream().flatMap(part -> parts(part).stream()).toList()
                : List.of(expression);
    }

    /** Returns the index of the name in the projection. */
    int index() {
        return index;
    }

    /** Returns whether no event without a value passes. */
    boolean excludesMissing() {
        if (forMissing == UNKNOWN) {
            forMissing = result(null);
        }
        return forMissing == EXCLUDED;
    }

    /**
     * Returns whether no event with this value passes.
     *
     * @param different the number of different values of the group
     * @param value the value of the code
     */
    boolean excludes(int code, int different, Object value) {
        if (results.length < different) {
            results = Arrays.copyOf(results, different);
        }
        if (results[code] == UNKNOWN) {
            results[code] = result(value);
        }
        return results[code] == EXCLUDED;
    }

    private byte result(Object value) {
        single.clear();
        single.array()[0] = value;
        boolean isUsual = GroupValues.set(single, single.names().get(0), value);
        return isUsual && !part.matches(single.values()) ? EXCLUDED : POSSIBLE;
    }
}
