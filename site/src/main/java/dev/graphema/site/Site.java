package dev.graphema.site;

import com.fasterxml.jackson.databind.ObjectMapper;
import com.samskivert.mustache.Mustache;
import com.samskivert.mustache.Template;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;

/** The pages, their list, and the index of the search. */
final class Site {
    private static final ObjectMapper JSON = new ObjectMapper();

    private final Path root;
    private final Path target;

    Site(Path root, Path target) {
        this.root = root;
        this.target = target;
    }

    /**
     * Writes all pages.
     *
     * @throws IllegalArgumentException if a link leads nowhere
     */
    void build() throws IOException {
        List<Chapter> chapters = new ArrayList<>(Chapter.ALL);
        chapters.add(3, new Chapter("Examples", examples()));
        List<Page> pages = new ArrayList<>();
        for (Chapter chapter : chapters) {
            for (String file : chapter.files()) {
                pages.add(Page.read(root, file));
            }
        }
        Files.createDirectories(target);
        Links links = new Links(root, target, pages);
        Template template = Mustache.compiler().compile(resource("page.mustache"));
        for (Page page : pages) {
            Files.writeString(
                    target.resolve(page.name()),
                    template.execute(Map.of(
                            "title", page.title(),
                            "chapters", list(chapters, pages, page),
                            "contents", page.contents(),
                            "body", page.html(links))));
        }
        Files.writeString(target.resolve("search-index.js"), "const SECTIONS = " + index(chapters, pages) + ";\n");
        for (String file : List.of("site.css", "search.js")) {
            Files.writeString(target.resolve(file), resource(file));
        }
    }

    private List<String> examples() throws IOException {
        try (Stream<Path> folders = Files.list(root.resolve("examples"))) {
            return folders.filter(folder -> Files.exists(folder.resolve("README.md")))
                    .map(folder -> "examples/" + folder.getFileName() + "/README.md")
                    .sorted()
                    .toList();
        }
    }

    private static List<Map<String, Object>> list(List<Chapter> chapters, List<Page> pages, Page current) {
        List<Map<String, Object>> list = new ArrayList<>();
        for (Chapter chapter : chapters) {
            List<Map<String, Object>> entries = pages.stream()
                    .filter(page -> chapter.files().contains(page.file()))
                    .map(page -> Map.<String, Object>of(
                            "name", page.name(), "title", page.title(), "isCurrent", page == current))
                    .toList();
            list.add(Map.of("title", chapter.title(), "pages", entries));
        }
        return list;
    }

    private static String index(List<Chapter> chapters, List<Page> pages) throws IOException {
        List<Map<String, Object>> entries = new ArrayList<>();
        for (Page page : pages) {
            boolean isForUsers = chapters.stream()
                    .anyMatch(chapter -> chapter.isForUsers() && chapter.files().contains(page.file()));
            for (Page.Section section : page.sections()) {
                String anchor = section.anchor().isEmpty() ? "" : "#" + section.anchor();
                entries.add(Map.of(
                        "page", page.title(),
                        "heading", section.heading(),
                        "link", page.name() + anchor,
                        "text", section.text(),
                        "weight", isForUsers ? 1 : 0.4));
            }
        }
        return JSON.writeValueAsString(entries);
    }

    private static String resource(String name) throws IOException {
        try (InputStream stream = Site.class.getResourceAsStream(name)) {
            return new String(stream.readAllBytes(), StandardCharsets.UTF_8);
        }
    }
}
