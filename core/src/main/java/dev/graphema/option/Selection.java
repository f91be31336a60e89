package dev.graphema.option;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.ServiceLoader;

/**
 * The things of one type that can be named: the ready ones, and those that other libraries and the program offer as
 * services ({@link ServiceLoader}). Where two have the same name, the ready one stays.
 *
 * @param <S> the type
 */
public final class Selection<S extends Selectable> {
    private final Map<String, S> byName = new LinkedHashMap<>();

    private Selection() {}

    /**
     * The ready ones and all services of that type.
     *
     * @throws java.util.ServiceConfigurationError when a service is declared that cannot be made
     */
    public static <S extends Selectable> Selection<S> of(Class<S> type, List<? extends S> ready) {
        Selection<S> selection = new Selection<>();
        ready.forEach(each -> selection.byName.putIfAbsent(each.name(), each));
        for (S service : ServiceLoader.load(type, type.getClassLoader())) {
            selection.byName.putIfAbsent(service.name(), service);
        }
        return selection;
    }

    /** The one of that name in any case, or null. */
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
