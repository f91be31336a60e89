package dev.graphema.collector.page;

import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.stream.Collectors;

/** The drawing code of the page for pages without a server, such as reports: they draw the same from the same answers. */
public final class Drawings {
    private static final List<String> MODULES = List.of("texts.js", "times.js", "shapes.js");

    private Drawings() {}

    /**
     * Returns the functions of the page's modules that make shapes from answers, as one script without imports: above all
     * {@code mapPlaces}, {@code mapShapes}, {@code courseShapes}, {@code trailShapes} and {@code setZone}.
     */
    public static String script() throws IOException {
        StringBuilder script = new StringBuilder();
        for (String module : MODULES) {
            script.append(resource(module)
                    .lines()
                    .filter(line -> !line.startsWith("import "))
                    .map(line -> line.startsWith("export ") ? line.substring("export ".length()) : line)
                    .collect(Collectors.joining("\n", "", "\n")));
        }
        return script.toString();
    }

    /** Returns the colours, the typefaces and the styles of the shapes, as CSS. */
    public static String style() throws IOException {
        return resource("drawing.css");
    }

    private static String resource(String name) throws IOException {
        try (InputStream in = Drawings.class.getResourceAsStream(name)) {
            return new String(in.readAllBytes(), StandardCharsets.UTF_8);
        }
    }
}
