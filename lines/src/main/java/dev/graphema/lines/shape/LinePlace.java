package dev.graphema.lines.shape;

import java.util.Set;

/** Where the current line of a log is, which a question can ask for by the names below. */
public interface LinePlace {
    /** The name of the file. */
    String FILE = "line.file";
    /** The number of the line, counted from 1. */
    String NUMBER = "line.number";
    /** The position of the line in bytes. */
    String OFFSET = "line.offset";

    /** All of these names. */
    Set<String> NAMES = Set.of(FILE, NUMBER, OFFSET);

    String file();

    long number();

    long offset();
}
