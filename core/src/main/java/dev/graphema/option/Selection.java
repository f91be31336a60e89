package dev.graphema.option;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.ServiceLoader;

/**
 * The kinds of one type that can be selected: built-in ones, and services of libraries and the program ({@link
 * ServiceLoader}). If two have the same name, the built-in one is used.
 *
 * @param <S> the type
 */
public final class Selection<S extends Selectable> {
    private final Map<String, S> byName = new LinkedHashMap<>();

    private Selection() {}

    /**
     * Returns the built-in kinds and all services of the type.
     *
     * @throws java.util.ServiceConfigurationError if a declared service cannot be created
     */
    public static <S extends Selectable> Selection<S> of(Class<S> type, List<? extends S> ready) {
        Selection<S> selection = new Selection<>();
        ready.forEach(each -> selection.byName.putIfAbsent(each.name(), each));
        for (S service : ServiceLoader.load(type, type.getClassLoader())) {
            selection.byName.putIfAbsent(service.name(), service);
        }
        return selection;
    }

    /** Returns the kind with this name, ignoring case, or null. */
    public S named(String name) {
        for (S each : byName.values()) {
            if (each.name().equalsIgnoreCase(name)) {
                return each;
            }
        }
        return null;
    }

    public List<S> all() {
        return new ArrayList<>(byName.values());
    }

    public List<String> names() {
        return new ArrayList<>(byName.keySet());
    }
}
