package dev.graphema.lines;

import dev.graphema.lines.shape.LineShape;
import dev.graphema.lines.shape.ShapeFile;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/** The shapes that files named {@value ShapeFile#NAME} define for the logs beside and below them. For one thread. */
final class ShapeFiles {
    private final List<Path> paths;
    private final Map<Path, ShapeFile> known = new HashMap<>();

    /** @param paths the files and folders that are read: files above them do not count */
    ShapeFiles(List<Path> paths) {
        this.paths =
                paths.stream().map(Path::toAbsolutePath).map(Path::normalize).toList();
    }

    /**
     * Returns the shape that the closest file defines.
     *
     * @throws IOException if a file is invalid
     */
    LineShape of(Path file) throws IOException {
        Path folder = file.toAbsolutePath().normalize().getParent();
        LineShape shape = in(folder, file);
        while (shape.equals(LineShape.USUAL) && isBelowPath(folder)) {
            folder = folder.getParent();
            shape = in(folder, file);
        }
        return shape;
    }

    private boolean isBelowPath(Path folder) {
        return paths.stream().anyMatch(path -> folder.startsWith(path) && !folder.equals(path));
    }

    private LineShape in(Path folder, Path file) throws IOException {
        if (!known.containsKey(folder)) {
            Path definition = folder.resolve(ShapeFile.NAME);
            known.put(folder, Files.isRegularFile(definition) ? ShapeFile.read(definition) : null);
        }
        ShapeFile definition = known.get(folder);
        return definition == null ? LineShape.USUAL : definition.shape(file);
    }
}
