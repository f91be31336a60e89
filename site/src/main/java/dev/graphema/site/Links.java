package dev.graphema.site;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.Map;

/** Where links of the files lead in the site: to a page, or to a copy of a file of the project. */
final class Links {
    private final Path root;
    private final Path target;
    private final Map<String, Page> pages = new LinkedHashMap<>();

    Links(Path root, Path target, Iterable<Page> pages) {
        this.root = root;
        this.target = target;
        pages.forEach(page -> this.pages.put(page.file(), page));
    }

    /**
     * Returns the link of the site; a file that is no page is copied.
     *
     * @throws IllegalArgumentException if the link leads nowhere
     */
    String of(Page from, String link) {
        if (link.matches("[a-z]+:.*")) {
            return link;
        }
        int hash = link.indexOf('#');
        String anchor = hash < 0 ? "" : link.substring(hash + 1);
        String path = hash < 0 ? link : link.substring(0, hash);
        String file = path.isEmpty() ? from.file() : file(from, path);
        Page page = pages.containsKey(file) ? pages.get(file) : pages.get(file + "/README.md");
        if (page == null) {
            return copied(from, link, file);
        }
        if (!anchor.isEmpty() && !page.anchors().contains(anchor)) {
            throw new IllegalArgumentException(from.file() + ": there is no heading for the link " + link);
        }
        return page.name() + (anchor.isEmpty() ? "" : "#" + anchor);
    }

    private static String file(Page from, String path) {
        Path folder = Path.of(from.file()).getParent();
        Path file = folder == null ? Path.of(path) : folder.resolve(path);
        return file.normalize().toString().replace('\\', '/');
    }

    private String copied(Page from, String link, String file) {
        Path original = root.resolve(file);
        if (!Files.isRegularFile(original)) {
            throw new IllegalArgumentException(from.file() + ": the link " + link + " leads nowhere");
        }
        try {
            Path copy = target.resolve("files").resolve(file);
            Files.createDirectories(copy.getParent());
            if (!Files.exists(copy)) {
                Files.copy(original, copy);
            }
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        return "files/" + file;
    }
}
