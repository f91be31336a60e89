package dev.graphema.site;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import org.commonmark.ext.gfm.tables.TablesExtension;
import org.commonmark.node.AbstractVisitor;
import org.commonmark.node.Code;
import org.commonmark.node.FencedCodeBlock;
import org.commonmark.node.Heading;
import org.commonmark.node.IndentedCodeBlock;
import org.commonmark.node.Node;
import org.commonmark.node.Text;
import org.commonmark.parser.Parser;
import org.commonmark.renderer.html.HtmlRenderer;

/** A page that is made from a file in Markdown. Headings get the anchors that code hosts give them, so links work in both. */
final class Page {
    private static final Parser PARSER =
            Parser.builder().extensions(List.of(TablesExtension.create())).build();

    /**
     * A part of the page under a heading.
     *
     * @param heading the text of the heading
     * @param anchor the anchor; empty for the title of the page
     * @param text the text below, without marks
     */
    record Section(String heading, String anchor, String text) {}

    private final String file;
    private final Node document;
    private final List<Heading> headings = new ArrayList<>();
    private final List<String> anchors = new ArrayList<>();
    private final List<Section> sections = new ArrayList<>();

    private Page(String file, Node document) {
        this.file = file;
        this.document = document;
    }

    /** @param file relative to the root of the project */
    static Page read(Path root, String file) throws IOException {
        Page page = new Page(file, PARSER.parse(Files.readString(root.resolve(file))));
        page.readSections();
        return page;
    }

    private void readSections() {
        Set<String> taken = new HashSet<>();
        Heading heading = null;
        StringBuilder text = new StringBuilder();
        for (Node node = document.getFirstChild(); node != null; node = node.getNext()) {
            if (node instanceof Heading next) {
                end(heading, text);
                heading = next;
                headings.add(next);
                String anchor = anchor(text(next));
                int number = 1;
                while (!taken.add(anchor)) {
                    anchor = anchor(text(next)) + "-" + number++;
                }
                anchors.add(anchor);
            } else {
                text.append(text(node)).append(' ');
            }
        }
        end(heading, text);
    }

    private void end(Heading heading, StringBuilder text) {
        if (heading != null) {
            int last = headings.size() - 1;
            String anchor = heading.getLevel() == 1 ? "" : anchors.get(last);
            sections.add(
                    new Section(text(heading), anchor, text.toString().strip().replaceAll("\\s+", " ")));
        }
        text.setLength(0);
    }

    /** Returns the anchor of a heading: lower case, without punctuation, with hyphens for blanks. */
    static String anchor(String heading) {
        return heading.toLowerCase(Locale.ROOT)
                .replaceAll("[^\\p{L}\\p{N} _-]", "")
                .replace(' ', '-');
    }

    private static String text(Node node) {
        StringBuilder text = new StringBuilder();
        node.accept(new AbstractVisitor() {
            @Override
            public void visit(Text part) {
                text.append(part.getLiteral());
            }

            @Override
            public void visit(Code part) {
                text.append(part.getLiteral());
            }

            @Override
            public void visit(FencedCodeBlock part) {
                text.append(part.getLiteral());
            }

            @Override
            public void visit(IndentedCodeBlock part) {
                text.append(part.getLiteral());
            }

            @Override
            protected void visitChildren(Node parent) {
                super.visitChildren(parent);
                if (!(parent instanceof Heading)) {
                    text.append(' ');
                }
            }
        });
        return text.toString();
    }

    /** Returns the file, relative to the root of the project. */
    String file() {
        return file;
    }

    /** Returns the name of the page in the site. */
    String name() {
        if (file.equals("README.md")) {
            return "index.html";
        }
        String name = file.startsWith("docs/") ? file.substring("docs/".length()) : file;
        return name.replace("/README.md", "")
                        .replace(".md", "")
                        .replace('/', '-')
                        .toLowerCase(Locale.ROOT)
                + ".html";
    }

    String title() {
        return sections.isEmpty() ? file : sections.get(0).heading();
    }

    List<Section> sections() {
        return sections;
    }

    /** Returns the sections of the second level, for a list of contents. */
    List<Section> contents() {
        List<Section> found = new ArrayList<>();
        for (int i = 0; i < headings.size(); i++) {
            if (headings.get(i).getLevel() == 2) {
                found.add(sections.get(i));
            }
        }
        return found;
    }

    Set<String> anchors() {
        return Set.copyOf(anchors);
    }

    /** @param links returns where a link of this page leads in the site */
    String html(Links links) {
        HtmlRenderer renderer = HtmlRenderer.builder()
                .extensions(List.of(TablesExtension.create()))
                .attributeProviderFactory(context -> (node, tag, attributes) -> {
                    if (node instanceof Heading heading) {
                        attributes.put("id", anchors.get(headings.indexOf(heading)));
                    }
                    attributes.computeIfPresent("href", (name, link) -> links.of(this, link));
                    attributes.computeIfPresent("src", (name, link) -> links.of(this, link));
                })
                .build();
        return renderer.render(document);
    }
}
