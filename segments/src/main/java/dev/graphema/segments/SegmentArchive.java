package dev.graphema.segments;

import dev.graphema.query.source.Control;
import dev.graphema.sink.ArchiveForm;
import java.io.IOException;
import java.nio.channels.FileChannel;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;

/** Archived files of the file sink as segments: {@code compress: segment} in its settings. */
public final class SegmentArchive implements ArchiveForm {
    /** Created by {@link java.util.ServiceLoader}. */
    public SegmentArchive() {}

    @Override
    public String name() {
        return "segment";
    }

    @Override
    public String extension() {
        return SegmentFiles.SUFFIX;
    }

    @Override
    public void write(Path log, Path archive, Runnable pause) throws IOException {
        Control pausing = progress -> {
            pause.run();
            return true;
        };
        try (FileChannel to = FileChannel.open(
                        archive,
                        StandardOpenOption.CREATE,
                        StandardOpenOption.WRITE,
                        StandardOpenOption.TRUNCATE_EXISTING);
                SegmentWriter writer = new SegmentWriter(to)) {
            SegmentConversion.convert(log, writer, pausing);
            to.force(true);
        }
    }
}
