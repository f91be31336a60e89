package dev.graphema.option;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.ServiceLoader;

/**
 * The kinds of one type that can be selected: built-in ones, and services of libraries and the program ({@link
 * ServiceLoader}). If two have the same name, the built-in one is used. Thread-safe.
 *
 * @param <S> the type
 */
public final class Selection<S extends Named> {
    private final Class<S> type;
    private volatile Map<String, S> byName = Map.of();

    private Selection(Class<S> type) {
        this.type = type;
    }

    /**
     * Returns the built-in kinds and all services of the type.
     *
     * @throws java.util.ServiceConfigurationError if a declared service cannot be created
     */
    public static <S extends Named> Selection<S> of(Class<S> type, List<? extends S> ready) {
        Selection<S> selection = new Selection<>(type);
        selection.add(ready);
        selection.add(ServiceLoader.load(type, type.getClassLoader()));
        return selection;
    }

    /**
     * Adds the services of further libraries; kinds whose names are known already are not replaced.
     *
     * @throws java.util.ServiceConfigurationError if a declared service cannot be created
     */
    public void addServices(ClassLoader libraries) {
        add(ServiceLoader.load(type, libraries));
    }

    private synchronized void add(Iterable<? extends S> kinds) {
        Map<String, S> more = new LinkedHashMap<>(byName);
        kinds.forEach(each -> more.putIfAbsent(each.name(), each));
        byName = more;
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
