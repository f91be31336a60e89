package dev.graphema.site;

import java.util.List;

/**
 * A chapter of the site.
 *
 * @param title the heading in the list of pages
 * @param files the files of its pages, relative to the root of the project, in the order of a reader
 */
record Chapter(String title, List<String> files) {
    private static final String PROJECT = "Project";

    /** Returns whether it is for users of Graphema, and not mainly about the project itself. */
    boolean isForUsers() {
        return !title.equals(PROJECT);
    }

    /** All chapters but that of the examples, whose pages are found in their folders. */
    static final List<Chapter> ALL = List.of(
            new Chapter("Start", List.of("README.md", "docs/quick-start.md", "docs/concepts.md")),
            new Chapter(
                    "How to",
                    List.of(
                            "docs/api.md",
                            "docs/finding.md",
                            "docs/page.md",
                            "docs/choices.md",
                            "docs/frameworks.md",
                            "docs/extending.md",
                            "docs/operations.md",
                            "docs/security.md")),
            new Chapter(
                    "Reference",
                    List.of(
                            "docs/settings.md",
                            "docs/sinks.md",
                            "docs/sampling.md",
                            "docs/redaction.md",
                            "docs/conditions.md",
                            "docs/events.md",
                            "docs/segments.md",
                            "docs/store.md",
                            "docs/collector.md",
                            "docs/kafka.md",
                            "docs/lake.md",
                            "docs/scale.md",
                            "docs/questions.md")),
            new Chapter(PROJECT, List.of("docs/performance.md", "CHANGELOG.md", "CONTRIBUTING.md", "SECURITY.md")));
}
