package dev.graphema.segments.file;

import dev.graphema.query.source.CoverageBuilder;
import dev.graphema.segments.column.ByteReader;
import java.io.IOException;
import java.util.function.Function;

/** Reads blocks without which all questions are answered, only more slowly. */
public final class OptionalBlock {
    private OptionalBlock() {}

    /**
     * Reads a block.
     *
     * @param block null for none
     * @param coverage receives the bytes that are read, and damage
     * @return null if there is none, or if it is damaged
     */
    public static <T> T read(
            SegmentFile file, Directory.Block block, CoverageBuilder coverage, Function<ByteReader, T> decoder)
            throws IOException {
        if (block == null) {
            return null;
        }
        try {
            coverage.bytes(block.length());
            return decoder.apply(file.read(block));
        } catch (SegmentException | IndexOutOfBoundsException | NegativeArraySizeException e) {
            coverage.failed(file.path().toString(), damaged(block));
            return null;
        }
    }

    /** Returns the report about a damaged block. */
    public static String damaged(Directory.Block block) {
        return "the block at byte " + block.offset() + " is damaged; it only makes searching faster, and is not used";
    }
}
