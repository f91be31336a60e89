package dev.graphema.collector.ingest;

/**
 * Up to where a followed file is stored. It is a part of its events, so that both are on the disk or neither.
 *
 * @param file the path
 * @param log identifies the contents: a file with the same name after rotation is another log
 * @param position the number of bytes
 */
public record FilePlace(String file, String log, long position) {}
