package dev.graphema.segments.column;

/**
 * Excludes most ids that are not among those of a group (a Bloom filter; B. Bloom, 1970; with two hashes for all bits: A.
 * Kirsch and M. Mitzenmacher, 2006). Of ids that are not there, about one in a hundred seems to be. Immutable.
 */
public final class IdFilter {
    private static final int BITS_OF_ID = 10;
    private static final int HASHES = 6;

    private final byte[] bits;

    private IdFilter(byte[] bits) {
        this.bits = bits;
    }

    /** Writes the filter of the different ids of a column. */
    static void write(byte[] ids, int[] ends, int count, ByteWriter to) {
        byte[] bits = new byte[(count * BITS_OF_ID + Byte.SIZE - 1) / Byte.SIZE];
        for (int code = 0; code < count; code++) {
            int from = code == 0 ? 0 : ends[code - 1];
            long hash = hash(ids, from, ends[code]);
            for (int i = 0; i < HASHES; i++) {
                int bit = bit(hash, i, bits.length);
                bits[bit / Byte.SIZE] |= (byte) (1 << bit % Byte.SIZE);
            }
        }
        to.put(bits);
    }

    /** Reads a filter. */
    public static IdFilter read(ByteReader from, int length) {
        return new IdFilter(from.get(length));
    }

    /** Returns whether an id of 8 or 16 bytes may be there; false only if it is not. */
    public boolean mayContain(byte[] id) {
        long hash = hash(id, 0, id.length);
        for (int i = 0; i < HASHES && bits.length > 0; i++) {
            int bit = bit(hash, i, bits.length);
            if ((bits[bit / Byte.SIZE] & 1 << bit % Byte.SIZE) == 0) {
                return false;
            }
        }
        return bits.length > 0;
    }

    private static int bit(long hash, int index, int bytes) {
        int combined = (int) hash + index * ((int) (hash >>> Integer.SIZE) | 1);
        return (int) ((combined & 0xFFFFFFFFL) * bytes * Byte.SIZE >>> Integer.SIZE);
    }

    /** Mixes also ids that are not random (the finaliser of G. Steele, D. Lea and C. Flood, 2014). */
    private static long hash(byte[] id, int from, int end) {
        long hash = end - from;
        for (int i = from; i < end; i += Long.BYTES) {
            hash = (hash ^ Ids.bits(id, i)) * 0xBF58476D1CE4E5B9L;
            hash = (hash ^ hash >>> 27) * 0x94D049BB133111EBL;
            hash ^= hash >>> 31;
        }
        return hash;
    }
}
