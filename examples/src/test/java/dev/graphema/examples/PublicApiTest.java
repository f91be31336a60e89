package dev.graphema.examples;

import static org.junit.jupiter.api.Assertions.assertEquals;

import java.io.File;
import java.io.IOException;
import java.lang.module.ModuleDescriptor;
import java.lang.module.ModuleFinder;
import java.lang.module.ModuleReader;
import java.lang.module.ModuleReference;
import java.lang.reflect.Constructor;
import java.lang.reflect.Field;
import java.lang.reflect.Method;
import java.lang.reflect.Modifier;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/**
 * Every change of the public API changes a listing in docs/api, so that nobody changes it by accident. Run with {@code
 * -Dreference.write=true} to write the listings.
 */
class PublicApiTest {
    private static final Path LISTINGS = Path.of("../docs/api");

    @ParameterizedTest
    @ValueSource(
            strings = {
                "core",
                "query",
                "lines",
                "segments",
                "remote",
                "collector",
                "web",
                "delivery",
                "sql",
                "kafka",
                "testkit"
            })
    void thePublicApiIsListed(String module) throws IOException, ClassNotFoundException {
        Path listing = LISTINGS.resolve(module + ".txt");
        String now = listing("dev.graphema." + module);
        if (Boolean.getBoolean("reference.write")) {
            Files.createDirectories(LISTINGS);
            Files.writeString(listing, now);
        }
        assertEquals(
                Files.readString(listing),
                now,
                "the public API has changed: if that is intended, write docs/api with -Dreference.write=true");
    }

    private static String listing(String module) throws IOException, ClassNotFoundException {
        ModuleReference reference = reference(module);
        Set<String> exported = reference.descriptor().exports().stream()
                .filter(exports -> !exports.isQualified())
                .map(ModuleDescriptor.Exports::source)
                .collect(Collectors.toSet());
        List<String> names;
        try (ModuleReader reader = reference.open();
                Stream<String> all = reader.list()) {
            names = all.filter(name -> name.endsWith(".class") && !name.equals("module-info.class"))
                    .map(name ->
                            name.substring(0, name.length() - ".class".length()).replace('/', '.'))
                    .filter(name -> exported.contains(name.substring(0, name.lastIndexOf('.'))))
                    .sorted()
                    .toList();
        }
        StringBuilder listing = new StringBuilder();
        for (String name : names) {
            Class<?> type = Class.forName(name, false, PublicApiTest.class.getClassLoader());
            if (isVisible(type)) {
                listing.append(plain(type.toGenericString())).append('\n');
                members(type)
                        .forEach(member ->
                                listing.append("    ").append(plain(member)).append('\n'));
            }
        }
        return listing.toString();
    }

    private static boolean isVisible(Class<?> type) {
        for (Class<?> each = type; each != null; each = each.getDeclaringClass()) {
            if (!isVisible(each.getModifiers()) || each.isAnonymousClass() || each.isSynthetic()) {
                return false;
            }
        }
        return true;
    }

    private static boolean isVisible(int modifiers) {
        return Modifier.isPublic(modifiers) || Modifier.isProtected(modifiers);
    }

    private static Set<String> members(Class<?> type) {
        Set<String> members = new TreeSet<>();
        for (Field field : type.getDeclaredFields()) {
            if (isVisible(field.getModifiers()) && !field.isSynthetic()) {
                members.add(field.toGenericString());
            }
        }
        for (Constructor<?> constructor : type.getDeclaredConstructors()) {
            if (isVisible(constructor.getModifiers()) && !constructor.isSynthetic()) {
                members.add(constructor.toGenericString());
            }
        }
        for (Method method : type.getDeclaredMethods()) {
            if (isVisible(method.getModifiers()) && !method.isSynthetic()) {
                members.add(method.toGenericString());
            }
        }
        return members;
    }

    /** Without packages of the JDK and modifiers that are no part of a contract. */
    private static String plain(String signature) {
        return signature
                .replaceAll("\\bjava\\.(?:\\w+\\.)+(?=[A-Z])", "")
                .replaceAll("\\b(?:synchronized|native|strictfp|sealed|non-sealed) ", "");
    }

    private static ModuleReference reference(String module) {
        List<Path> path = new ArrayList<>();
        for (String entry : System.getProperty("java.class.path").split(File.pathSeparator)) {
            Path file = Path.of(entry);
            if (Files.isDirectory(file) || file.getFileName().toString().startsWith("graphema-")) {
                path.add(file);
            }
        }
        return path.stream()
                .map(ModuleFinder::of)
                .flatMap(finder -> finder.find(module).stream())
                .findFirst()
                .orElseThrow();
    }
}
