package dev.graphema.examples;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import javax.xml.parsers.DocumentBuilderFactory;
import javax.xml.parsers.ParserConfigurationException;
import org.junit.jupiter.api.Test;
import org.w3c.dom.Document;
import org.w3c.dom.Element;
import org.w3c.dom.NodeList;
import org.xml.sax.SAXException;

/**
 * Which libraries reach those who use a module. The build also refuses logging facades among the resolved dependencies of each module
 * (maven-enforcer-plugin).
 */
class DependenciesTest {
    /** Modules that nobody uses as a library. */
    private static final Set<String> NOT_LIBRARIES = Set.of("engines", "examples", "benchmarks", "site", "dist", "bom");

    private static final Set<String> WITH_ENGINES = Set.of("kafka", "spark");

    private static List<Path> poms() throws IOException {
        try (Stream<Path> folders = Files.list(Path.of(".."))) {
            return folders.filter(folder ->
                            !NOT_LIBRARIES.contains(folder.getFileName().toString()))
                    .map(folder -> folder.resolve("pom.xml"))
                    .filter(Files::exists)
                    .sorted()
                    .toList();
        }
    }

    private static NodeList dependencies(Path pom) throws IOException {
        try {
            Document document =
                    DocumentBuilderFactory.newInstance().newDocumentBuilder().parse(pom.toFile());
            return document.getElementsByTagName("dependency");
        } catch (ParserConfigurationException | SAXException e) {
            throw new IOException(pom + " cannot be read", e);
        }
    }

    private static String text(Element dependency, String name) {
        NodeList found = dependency.getElementsByTagName(name);
        return found.getLength() == 0 ? "" : found.item(0).getTextContent();
    }

    @Test
    void enginesAreProvidedInTheirOwnModulesOnly() throws IOException {
        List<Path> poms = poms();
        assertTrue(poms.size() >= 11, poms.toString());
        Set<String> modules = new TreeSet<>();
        for (Path pom : poms) {
            NodeList dependencies = dependencies(pom);
            for (int i = 0; i < dependencies.getLength(); i++) {
                Element dependency = (Element) dependencies.item(i);
                String group = text(dependency, "groupId");
                String scope = text(dependency, "scope");
                if (group.matches("org\\.apache\\.(kafka|spark)") && !scope.equals("test")) {
                    assertEquals("provided", scope, pom.toString());
                    modules.add(pom.getParent().getFileName().toString());
                }
            }
        }
        assertTrue(WITH_ENGINES.containsAll(modules) && modules.contains("kafka"), modules.toString());
    }

    @Test
    void theCommandHasNoEngines() throws IOException {
        Path libraries = Path.of("../cli/target/libraries");
        assumeTrue(Files.isDirectory(libraries), "the command is not packaged: run mvn verify");
        try (Stream<Path> files = Files.list(libraries)) {
            Set<String> names = files.map(file -> file.getFileName().toString()).collect(Collectors.toSet());
            assertTrue(names.stream().anyMatch(name -> name.startsWith("graphema-core-")), names.toString());
            assertEquals(
                    List.of(),
                    names.stream()
                            .filter(name -> name.matches("(kafka|spark).*"))
                            .toList());
        }
    }
}
