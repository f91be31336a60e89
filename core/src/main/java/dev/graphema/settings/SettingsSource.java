package dev.graphema.settings;

import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.net.URL;
import java.nio.ByteBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;
import java.util.function.UnaryOperator;
import org.snakeyaml.engine.v2.nodes.MappingNode;
import org.snakeyaml.engine.v2.nodes.Node;
import org.snakeyaml.engine.v2.nodes.NodeTuple;
import org.snakeyaml.engine.v2.nodes.ScalarNode;

/**
 * A settings file with its includes and the active profile. Remembers what it has read, to detect changes. Thread-safe.
 */
public final class SettingsSource {
    /** The system property with the path of the settings file. */
    public static final String PROPERTY = "graphema.settings";

    /** The environment variable with the path of the settings file. */
    public static final String VARIABLE = "GRAPHEMA_SETTINGS";

    /** The name on the class path. */
    public static final String RESOURCE = "graphema.yaml";

    /** The system property and the environment variable with the profile, or several separated by commas. */
    public static final String PROFILE_PROPERTY = "graphema.profile";

    public static final String PROFILE_VARIABLE = "GRAPHEMA_PROFILE";

    private static final Set<String> STRUCTURE = Set.of("include", "profiles", "profile");
    private static final int MOST_INCLUDES = 100;

    private static final byte[] NOTHING = {};

    /** The largest size of a settings file; usual ones have some kilobytes. */
    private static final int MOST_BYTES = 256 * 1024;

    private final String name;
    private final Path file;
    private final URL resource;
    private final Consumer<Settings.Builder> given;
    private final UnaryOperator<String> variables;
    private Map<Path, byte[]> lastRead = new LinkedHashMap<>();

    private SettingsSource(
            String name, Path file, URL resource, Consumer<Settings.Builder> given, UnaryOperator<String> variables) {
        this.name = name;
        this.file = file;
        this.resource = resource;
        this.given = given;
        this.variables = variables;
    }

    /** Returns the source for a file. */
    public static SettingsSource of(Path file) {
        return of(file, SettingsSource::variable);
    }

    static SettingsSource of(Path file, UnaryOperator<String> variables) {
        return new SettingsSource(file.toString(), file, null, builder -> {}, variables);
    }

    /**
     * Returns the file that the system property {@value #PROPERTY} names, else the environment variable {@value
     * #VARIABLE}, else {@value #RESOURCE} on the class path; empty if there is none.
     */
    public static Optional<SettingsSource> find() {
        String named = System.getProperty(PROPERTY, System.getenv(VARIABLE));
        if (named != null && !named.isBlank()) {
            return Optional.of(of(Path.of(named)));
        }
        ClassLoader loader = Thread.currentThread().getContextClassLoader();
        URL found = loader == null ? null : loader.getResource(RESOURCE);
        return found == null
                ? Optional.empty()
                : Optional.of(new SettingsSource(
                        RESOURCE + " on the class path", null, found, builder -> {}, SettingsSource::variable));
    }

    /**
     * Returns the source with settings that the program provides before the file is read: custom sinks, values,
     * defaults.
     */
    public SettingsSource with(Consumer<Settings.Builder> given) {
        return new SettingsSource(name, file, resource, given, variables);
    }

    static String variable(String name) {
        String value = System.getenv(name);
        return value == null ? System.getProperty(name) : value;
    }

    /**
     * Reads the settings.
     *
     * @throws IOException if the file cannot be read
     * @throws SettingsException if it or an include has errors; lists all of them
     */
    public Settings read() throws IOException {
        String profile = System.getProperty(PROFILE_PROPERTY, System.getenv(PROFILE_VARIABLE));
        return read(profile == null || profile.isBlank() ? null : profile);
    }

    /** As {@link #read()}, with a profile, or several separated by commas; null for that of the file. */
    public synchronized Settings read(String profile) throws IOException {
        Map<Path, byte[]> seen = new LinkedHashMap<>();
        SettingsFile reader = new SettingsFile(name, variables);
        given.accept(reader.settings());
        try {
            Node top = top(reader.yaml(), seen);
            if (top != null) {
                reader.top(Overlay.without(profiled(top, profile, reader.yaml()), STRUCTURE));
            }
        } catch (StackOverflowError e) {
            throw new SettingsException(List.of(new Problem(name, 0, 0, Yaml.NESTED_TOO_DEEPLY)));
        } finally {
            lastRead = seen;
        }
        return reader.finished();
    }

    /** Returns the names of the profiles in the file and its includes. */
    public synchronized List<String> profiles() throws IOException {
        SettingsFile reader = new SettingsFile(name, variables);
        Node profiles = Overlay.get(top(reader.yaml(), new LinkedHashMap<>()), "profiles");
        List<String> names = new ArrayList<>();
        if (profiles instanceof MappingNode mapping) {
            for (NodeTuple tuple : mapping.getValue()) {
                if (tuple.getKeyNode() instanceof ScalarNode key) {
                    names.add(key.getValue());
                }
            }
        }
        return names;
    }

    /** Returns whether a file has changed since it was read. Resources on the class path do not change. */
    public synchronized boolean hasChanged() {
        for (Map.Entry<Path, byte[]> each : lastRead.entrySet()) {
            try {
                if (!Arrays.equals(contents(each.getKey()), each.getValue())) {
                    return true;
                }
            } catch (IOException e) {
                if (each.getValue().length > 0) {
                    return true; // removed, or being replaced: reading reports it
                }
            }
        }
        return false;
    }

    /** Returns a digest of the contents of the files. */
    public synchronized int contents() {
        int hash = 1;
        for (Path each : lastRead.keySet()) {
            try {
                hash = 31 * hash + Arrays.hashCode(contents(each));
            } catch (IOException e) {
                hash = 31 * hash; // removed: that is a change, too
            }
        }
        return hash;
    }

    /** Returns the bytes of the file, but at most one more than allowed. */
    private static byte[] contents(Path path) throws IOException {
        if (Files.isDirectory(path)) {
            throw new IOException(path + " is a folder: expected a settings file");
        }
        try (InputStream in = Files.newInputStream(path)) {
            return in.readNBytes(MOST_BYTES + 1);
        }
    }

    private Node top(Yaml yaml, Map<Path, byte[]> seen) throws IOException {
        if (file != null) {
            return included(file, yaml, seen, List.of());
        }
        try (InputStream in = resource.openStream()) {
            return yaml.document(decoded(in.readAllBytes(), name, yaml), name).orElse(null);
        }
    }

    /**
     * Returns the file merged with its includes.
     *
     * @param from the files that include it
     */
    private Node included(Path path, Yaml yaml, Map<Path, byte[]> seen, List<Path> from) throws IOException {
        seen.put(path, NOTHING); // also a file that cannot be read is watched
        byte[] bytes = contents(path);
        seen.put(path, bytes);
        if (bytes.length > MOST_BYTES) {
            yaml.problems()
                    .add(new Problem(
                            path.toString(),
                            0,
                            0,
                            "too long for settings (expected: " + MOST_BYTES + " bytes at most)"));
            return null;
        }
        String text = decoded(bytes, path.toString(), yaml);
        Node own = text == null ? null : yaml.document(text, path.toString()).orElse(null);
        Node includes = own == null ? null : Overlay.get(own, "include");
        if (includes == null) {
            return own;
        }
        List<Path> here = new ArrayList<>(from);
        here.add(path.toAbsolutePath().normalize());
        Node below = null;
        for (Node item : yaml.items(includes)) {
            Node each = include(item, path, yaml, seen, here);
            below = below == null ? each : each == null ? below : Overlay.over(below, each);
        }
        Node without = Overlay.without(own, Set.of("include"));
        return below == null ? without : Overlay.over(below, without);
    }

    private Node include(Node item, Path path, Yaml yaml, Map<Path, byte[]> seen, List<Path> from) throws IOException {
        List<Node> read = new ArrayList<>();
        try {
            yaml.scalar(item, "the path of a settings file", text -> {
                Path target = path.resolveSibling(text);
                if (from.contains(target.toAbsolutePath().normalize())) {
                    throw new IllegalArgumentException("\"" + text + "\" leads back to a file that includes this one");
                }
                if (seen.size() >= MOST_INCLUDES) {
                    throw new IllegalArgumentException("more than " + MOST_INCLUDES + " files are included");
                }
                try {
                    read.add(included(target, yaml, seen, from));
                } catch (NoSuchFileException e) {
                    throw new IllegalArgumentException(
                            "\"" + text + "\" is not there: expected a settings file at " + target);
                } catch (IOException e) {
                    throw new UncheckedIOException(e);
                }
            });
        } catch (UncheckedIOException e) {
            throw e.getCause();
        }
        return read.isEmpty() ? null : read.get(0);
    }

    private static String decoded(byte[] bytes, String file, Yaml yaml) {
        try {
            return StandardCharsets.UTF_8
                    .newDecoder()
                    .decode(ByteBuffer.wrap(bytes))
                    .toString();
        } catch (CharacterCodingException e) {
            yaml.problems().add(new Problem(file, 0, 0, "not text in UTF-8"));
            return null;
        }
    }

    /** Returns the settings merged with the active profiles. */
    private static Node profiled(Node top, String active, Yaml yaml) {
        Node profiles = Overlay.get(top, "profiles");
        Node own = Overlay.get(top, "profile");
        List<String> names = new ArrayList<>();
        if (active != null) {
            names.addAll(Arrays.asList(active.split("\\s*,\\s*")));
        } else if (own != null) {
            yaml.items(own).forEach(item -> yaml.scalar(item, "the name of a profile", names::add));
        }
        if (profiles == null) {
            if (own != null && active == null) {
                yaml.problem(own, "there are no profiles: expected one below profiles");
            }
            return top;
        }
        Map<String, Node> known = new LinkedHashMap<>();
        yaml.entries(profiles, "profiles", (key, value) -> known.put(key.getValue(), value));
        Node result = top;
        for (String name : names) {
            Node overlay = known.get(name);
            if (overlay == null) {
                yaml.problem(
                        active == null ? own : profiles,
                        "no profile is called \"" + name + "\": expected one of " + String.join(", ", known.keySet())
                                + dev.graphema.text.Nearest.hint(name, known.keySet()));
            } else if (overlay instanceof MappingNode) {
                result = Overlay.over(result, Overlay.without(overlay, STRUCTURE));
            } else {
                yaml.entries(overlay, "the profile " + name, (key, value) -> {}); // notes what is wrong
            }
        }
        return result;
    }

    /** Returns the path or name of the file. */
    @Override
    public String toString() {
        return name;
    }
}
