package dev.graphema.settings;

import dev.graphema.event.GraphemaException;
import java.util.List;
import java.util.stream.Collectors;

/** Thrown if a settings file has errors. The message lists all of them, one per line. */
public final class SettingsException extends GraphemaException {
    private static final long serialVersionUID = 1;

    private final transient List<Problem> problems;

    SettingsException(List<Problem> problems) {
        super(problems.stream().map(Problem::toString).collect(Collectors.joining("\n")));
        this.problems = List.copyOf(problems);
    }

    public List<Problem> problems() {
        return problems;
    }
}
