package dev.graphema.option;

import java.util.ArrayList;
import java.util.Collection;
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
    private final List<S> builtIn;

    /** All kinds by name; null until another one than a built-in one is asked for, since services are searched on the class path. */
    private Map<String, S> byName;

    private Selection(Class<S> type, List<? extends S> builtIn) {
        this.type = type;
        this.builtIn = List.copyOf(builtIn);
    }

    /** Returns the built-in kinds and all services of the type. */
    public static <S extends Named> Selection<S> of(Class<S> type, List<? extends S> builtIn) {
        return new Selection<>(type, builtIn);
    }

    /**
     * Adds the services of further libraries; kinds whose names are known already are not replaced.
     *
     * @throws java.util.ServiceConfigurationError if a declared service cannot be created
     */
    public synchronized void addServices(ClassLoader libraries) {
        Map<String, S> more = new LinkedHashMap<>(byName());
        ServiceLoader.load(type, libraries).forEach(each -> more.putIfAbsent(each.name(), each));
        byName = more;
    }

    private synchronized Map<String, S> byName() {
        if (byName == null) {
            Map<String, S> kinds = new LinkedHashMap<>();
            builtIn.forEach(each -> kinds.put(each.name(), each));
            ServiceLoader.load(type, type.getClassLoader()).forEach(each -> kinds.putIfAbsent(each.name(), each));
            byName = kinds;
        }
        return byName;
    }

    /**
     * Returns the kind with this name, ignoring case, or null.
     *
     * @throws java.util.ServiceConfigurationError if it is not a built-in one, and a declared service cannot be created
     */
    public S named(String name) {
        S found = named(name, builtIn);
        return found != null ? found : named(name, byName().values());
    }

    private S named(String name, Collection<S> kinds) {
        for (S each : kinds) {
            if (each.name().equalsIgnoreCase(name)) {
                return each;
            }
        }
        return null;
    }

    /**
     * Returns all kinds, the built-in ones first.
     *
     * @throws java.util.ServiceConfigurationError if a declared service cannot be created
     */
    public List<S> all() {
        return new ArrayList<>(byName().values());
    }

    /**
     * Returns the names of all kinds.
     *
     * @throws java.util.ServiceConfigurationError if a declared service cannot be created
     */
    public List<String> names() {
        return new ArrayList<>(byName().keySet());
    }
}
