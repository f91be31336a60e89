package dev.graphema.collector.follow;

/**
 * Up to where a file was read.
 *
 * @param key identifies it in its file system, also when it is renamed
 * @param head the checksum of its first bytes, since a key is used again when a file is deleted
 * @param headBytes their number
 * @param log identifies its contents in events
 * @param file its path when it was found
 * @param position the number of bytes that are stored
 * @param isEnded whether it was renamed or deleted, and read to its end
 */
record Place(String key, long head, int headBytes, String log, String file, long position, boolean isEnded) {
    Place at(long position) {
        return new Place(key, head, headBytes, log, file, position, false);
    }

    Place withHead(long head, int headBytes) {
        return new Place(key, head, headBytes, log, file, position, isEnded);
    }

    Place ended() {
        return new Place(key, head, headBytes, log, file, position, true);
    }
}
