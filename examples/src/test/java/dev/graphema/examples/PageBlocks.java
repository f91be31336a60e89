package dev.graphema.examples;

import static org.junit.jupiter.api.Assertions.assertTrue;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;

/** The blocks of Java code in a page of the documentation. */
final class PageBlocks {
    private PageBlocks() {}

    /**
     * Checks that the source of a test contains every block.
     *
     * @param atLeast the least number of blocks
     */
    static void areIn(Path page, Class<?> test, int atLeast) throws IOException {
        areIn(page, List.of(Path.of("src/test/java", test.getName().replace('.', '/') + ".java")), atLeast);
    }

    /** As above, for blocks that any of these files may contain. */
    static void areIn(Path page, List<Path> files, int atLeast) throws IOException {
        StringBuilder source = new StringBuilder();
        for (Path file : files) {
            source.append(stripped(Files.readString(file)));
        }
        List<String> blocks = blocks(Files.readString(page));
        assertTrue(blocks.size() >= atLeast, "blocks: " + blocks.size());
        for (String block : blocks) {
            assertTrue(source.indexOf(stripped(block)) >= 0, "not in the tested examples:\n" + block);
        }
    }

    private static List<String> blocks(String page) {
        List<String> blocks = new ArrayList<>();
        String[] parts = page.split("```java\n", -1);
        for (int i = 1; i < parts.length; i++) {
            blocks.add(parts[i].substring(0, parts[i].indexOf("```")));
        }
        return blocks;
    }

    /** Without indentation, so that a block can be anywhere. */
    private static String stripped(String text) {
        return text.lines().map(String::strip).reduce("", (all, line) -> all + line + "\n");
    }
}
