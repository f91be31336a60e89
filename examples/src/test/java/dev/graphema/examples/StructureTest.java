package dev.graphema.examples;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import com.sun.source.tree.CompilationUnitTree;
import com.sun.source.tree.MethodTree;
import com.sun.source.util.JavacTask;
import com.sun.source.util.SourcePositions;
import com.sun.source.util.TreeScanner;
import com.sun.source.util.Trees;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import javax.tools.JavaCompiler;
import javax.tools.ToolProvider;
import org.junit.jupiter.api.Test;

/** Packages, files and methods stay small enough to be read in one sitting. */
class StructureTest {
    private static final int MOST_TYPES = 25;
    private static final int MEDIAN_LINES = 90;
    private static final int MOST_LINES_OF_A_METHOD = 60;

    @Test
    void noPackageHasTooManyTypes() throws IOException {
        Map<Path, Long> types = sources().stream()
                .filter(file -> !file.endsWith("package-info.java") && !file.endsWith("module-info.java"))
                .collect(Collectors.groupingBy(Path::getParent, TreeMap::new, Collectors.counting()));
        types.values().removeIf(count -> count <= MOST_TYPES);
        assertEquals(Map.of(), types);
    }

    @Test
    void filesAreShort() throws IOException {
        List<Long> lengths = new ArrayList<>();
        for (Path file : sources()) {
            try (Stream<String> lines = Files.lines(file)) {
                lengths.add(lines.count());
            }
        }
        lengths.sort(null);
        long median = lengths.get(lengths.size() / 2);
        assertTrue(median <= MEDIAN_LINES, "the median is " + median);
    }

    @Test
    void methodsAreShort() throws IOException {
        JavaCompiler compiler = ToolProvider.getSystemJavaCompiler();
        JavacTask task = (JavacTask) compiler.getTask(
                null,
                null,
                null,
                List.of("-proc:none"),
                null,
                compiler.getStandardFileManager(null, null, null).getJavaFileObjectsFromPaths(sources()));
        SourcePositions positions = Trees.instance(task).getSourcePositions();
        List<String> tooLong = new ArrayList<>();
        for (CompilationUnitTree unit : task.parse()) {
            new TreeScanner<Void, Void>() {
                @Override
                public Void visitMethod(MethodTree method, Void nothing) {
                    long from = unit.getLineMap().getLineNumber(positions.getStartPosition(unit, method));
                    long to = unit.getLineMap().getLineNumber(positions.getEndPosition(unit, method));
                    if (to - from + 1 > MOST_LINES_OF_A_METHOD) {
                        tooLong.add(unit.getSourceFile().getName() + ": " + method.getName() + " has " + (to - from + 1)
                                + " lines");
                    }
                    return super.visitMethod(method, nothing);
                }
            }.scan(unit, null);
        }
        assertEquals(List.of(), tooLong);
    }

    private static List<Path> sources() throws IOException {
        try (Stream<Path> files = Files.walk(Path.of(".."), 20)) {
            return files.filter(file -> file.toString().endsWith(".java"))
                    .filter(file -> file.toString().replace('\\', '/').contains("/src/main/java/"))
                    .sorted()
                    .toList();
        }
    }
}
