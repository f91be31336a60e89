package dev.graphema.site;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.regex.MatchResult;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The site of the real documentation: pages, links, and the search. */
class SiteTest {
    private static final Path ROOT = Path.of("..");
    private static final Pattern LINK = Pattern.compile("(?:href|src)=\"([^\"]+)\"");

    @TempDir
    static Path site;

    @TempDir
    Path folder;

    @BeforeAll
    static void build() throws IOException {
        new Site(ROOT, site).build();
    }

    @Test
    void everyPageOfTheDocumentationIsInTheSite() throws IOException {
        Set<String> expected = new TreeSet<>();
        try (Stream<Path> files = Files.list(ROOT.resolve("docs"))) {
            files.map(file -> file.getFileName().toString())
                    .filter(name -> name.endsWith(".md"))
                    .forEach(name -> expected.add(name.replace(".md", ".html")));
        }
        for (String name : expected) {
            assertTrue(Files.exists(site.resolve(name)), name + " is in no chapter");
        }
        assertTrue(Files.exists(site.resolve("index.html")));
        assertTrue(Files.exists(site.resolve("examples-minimal.html")));
    }

    @Test
    void everyLinkLeadsSomewhereWithoutANetwork() throws IOException {
        int links = 0;
        for (Path page : pages()) {
            for (MatchResult found :
                    LINK.matcher(Files.readString(page)).results().toList()) {
                String link = found.group(1);
                if (link.startsWith("https:") || link.startsWith("mailto:")) {
                    assertFalse(found.group().startsWith("src"), link);
                    continue;
                }
                links++;
                String file = link.replaceAll("#.*", "");
                Path target = file.isEmpty() ? page : site.resolve(file);
                assertTrue(Files.exists(target), page.getFileName() + ": " + link);
                if (link.contains("#")) {
                    String id = "id=\"" + link.substring(link.indexOf('#') + 1) + "\"";
                    assertTrue(Files.readString(target).contains(id), page.getFileName() + ": " + link);
                }
            }
        }
        assertTrue(links > 500, "links: " + links);
    }

    @Test
    void aLinkThatLeadsNowhereStopsTheBuild() throws IOException {
        Files.writeString(folder.resolve("a.md"), "# A\n\n[b](b.md) and [c](#c)\n");
        Page page = Page.read(folder, "a.md");
        Links links = new Links(folder, folder, List.of(page));
        assertEquals("a.md: the link b.md leads nowhere", wrong(links, page, "b.md"));
        assertEquals("a.md: there is no heading for the link #c", wrong(links, page, "#c"));
        assertEquals("a.html#a", links.of(page, "#a"));
    }

    private static String wrong(Links links, Page page, String link) {
        return assertThrows(IllegalArgumentException.class, () -> links.of(page, link))
                .getMessage();
    }

    @Test
    void textOfPagesIsEscaped() throws IOException {
        Files.writeString(folder.resolve("a.md"), "# A `<b>`\n\n    <script>alert(1)</script>\n");
        Page page = Page.read(folder, "a.md");
        String html = page.html(new Links(folder, folder, List.of(page)));
        assertTrue(html.contains("&lt;script&gt;") && !html.contains("<script>"), html);
        assertEquals("A <b>", page.title());
    }

    @Test
    void theSearchFindsSectionsByTheirWords() throws IOException, InterruptedException {
        assertEquals("redaction.html#detectors", first("detectors"));
        assertEquals("sinks.html#when-the-process-ends-suddenly", first("process ends suddenly"));
        assertEquals("frameworks.html#spring-boot", first("spring boot"));
        assertTrue(all("rotate.at").contains("sinks.html"), all("rotate.at"));
        assertTrue(all("trace").lines().count() == 12, all("trace"));
        assertEquals("", all("xyzzyx"));
        assertEquals("", all("  "));
    }

    private String first(String query) throws IOException, InterruptedException {
        return all(query).lines().findFirst().orElse("");
    }

    private String all(String query) throws IOException, InterruptedException {
        Path script = Files.writeString(
                folder.resolve("query.js"),
                Files.readString(site.resolve("search-index.js"))
                        + "const search = require(process.argv[2]);\n"
                        + "search.found(SECTIONS, process.argv[3]).forEach((each) => {\n"
                        + "  search.excerpt(each, process.argv[3]);\n  console.log(each.link);\n});\n");
        Process node;
        try {
            node = new ProcessBuilder(
                            "node", script.toString(), site.resolve("search.js").toString(), query)
                    .redirectError(ProcessBuilder.Redirect.INHERIT)
                    .start();
        } catch (IOException e) {
            assumeTrue(false, "the script of the search is tested where Node.js is installed, which it is not here");
            return "";
        }
        String output = new String(node.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
        assertEquals(0, node.waitFor());
        return output;
    }

    private static List<Path> pages() throws IOException {
        try (Stream<Path> files = Files.list(site)) {
            return files.filter(file -> file.toString().endsWith(".html")).toList();
        }
    }
}
