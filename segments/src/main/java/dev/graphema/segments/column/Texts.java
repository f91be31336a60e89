package dev.graphema.segments.column;

import com.github.luben.zstd.Zstd;
import java.lang.invoke.MethodHandles;
import java.lang.invoke.VarHandle;
import java.nio.ByteOrder;
import java.util.Arrays;
import java.util.SplittableRandom;

/**
 * Sequences of bytes: each different one once, in the order of their first occurrence, and a code for each value. The bytes are
 * compressed (zstd, RFC 8878) if that makes them shorter.
 */
public final class Texts {
    private static final int ZSTD_LEVEL = 1;

    /** The different texts. */
    private final byte[] bytes;

    /** Where each different text ends. */
    private final int[] ends;

    private final PackedNumbers packed;

    /** All codes; null until they are needed. */
    private int[] codes;

    private Texts(byte[] bytes, int[] ends, PackedNumbers packed) {
        this.bytes = bytes;
        this.ends = ends;
        this.packed = packed;
    }

    /** Gathers texts to be written. Used again; for one thread. */
    public static final class Builder {
        private static final VarHandle LONGS =
                MethodHandles.byteArrayViewVarHandle(long[].class, ByteOrder.LITTLE_ENDIAN);
        private static final long SEED = new SplittableRandom().nextLong();

        /** The odd number nearest to 2 to the 64th, divided by the golden ratio: it spreads each bit over those above it. */
        private static final long MIXER = 0x9E3779B97F4A7C15L;

        private final ByteWriter bytes = new ByteWriter(1 << 16);
        private int[] ends = new int[1024];
        private int different;
        private long[] codes = new long[1024];
        private int count;

        // An open hash table of codes + 1.
        private int[] table = new int[4096];

        public int count() {
            return count;
        }

        /** Returns the number of different texts. */
        int different() {
            return different;
        }

        /** Returns the number of bytes of all different texts. */
        int length() {
            return bytes.length();
        }

        /** Receives bytes of an array. */
        interface Receiver {
            void text(byte[] bytes, int from, int to);
        }

        /** Passes on each different text. */
        void forEach(Receiver receiver) {
            for (int code = 0; code < different; code++) {
                receiver.text(bytes.array(), begin(code), ends[code]);
            }
        }

        /** Returns the code of a value. */
        int code(int index) {
            return (int) codes[index];
        }

        /** Returns the text of a code. */
        byte[] text(int code) {
            return Arrays.copyOfRange(bytes.array(), begin(code), ends[code]);
        }

        /** Adds a text. */
        public void add(byte[] from, int begin, int end) {
            if (count == codes.length) {
                codes = Arrays.copyOf(codes, 2 * count);
            }
            codes[count++] = code(from, begin, end);
        }

        private int code(byte[] from, int begin, int end) {
            int hash = hash(from, begin, end);
            int at = hash & table.length - 1;
            while (table[at] != 0) {
                int code = table[at] - 1;
                if (Arrays.equals(bytes.array(), begin(code), ends[code], from, begin, end)) {
                    return code;
                }
                at = at + 1 & table.length - 1;
            }
            if (different == ends.length) {
                ends = Arrays.copyOf(ends, 2 * different);
            }
            bytes.put(from, begin, end - begin);
            ends[different++] = bytes.length();
            table[at] = different;
            if (different * 2 > table.length) {
                grow();
            }
            return different - 1;
        }

        private int begin(int code) {
            return code == 0 ? 0 : ends[code - 1];
        }

        private void grow() {
            table = new int[2 * table.length];
            for (int code = 0; code < different; code++) {
                int at = hash(bytes.array(), begin(code), ends[code]) & table.length - 1;
                while (table[at] != 0) {
                    at = at + 1 & table.length - 1;
                }
                table[at] = code + 1;
            }
        }

        /**
         * Returns the hash of a text. Ids that count upwards differ in a few digits only, and must not be neighbours; nobody
         * should know which texts are, because the sender of an event chooses its texts.
         */
        static int hash(byte[] from, int begin, int end) {
            long hash = SEED ^ end - begin;
            int i = begin;
            for (; i + Long.BYTES <= end; i += Long.BYTES) {
                hash = (hash ^ (long) LONGS.get(from, i)) * MIXER;
                hash ^= hash >>> 29;
            }
            for (; i < end; i++) {
                hash = (hash ^ from[i]) * MIXER;
            }
            hash ^= hash >>> 32;
            hash *= MIXER;
            return (int) (hash >>> 32);
        }

        /** Writes the filter of the texts, which are ids. */
        public void writeFilterTo(ByteWriter to) {
            IdFilter.write(bytes.array(), ends, different, to);
        }

        /** Writes all texts, and removes them. */
        public void writeTo(ByteWriter to) {
            long[] lengths = new long[different];
            for (int code = 0; code < different; code++) {
                lengths[code] = ends[code] - begin(code);
            }
            to.putInt(different);
            Numbers.write(lengths, different, to);
            byte[] packed = Zstd.compress(bytes.copy(), ZSTD_LEVEL);
            boolean isPacked = packed.length < bytes.length();
            to.putInt(bytes.length()).putInt(isPacked ? packed.length : 0);
            to.put(isPacked ? packed : bytes.array(), 0, isPacked ? packed.length : bytes.length());
            Numbers.write(codes, count, to);
            clear();
        }

        private void clear() {
            bytes.clear();
            different = 0;
            count = 0;
            Arrays.fill(table, 0);
        }
    }

    /**
     * Reads texts.
     *
     * @param count the number of values
     */
    public static Texts read(ByteReader from, int count) {
        int different = from.getInt();
        long[] lengths = Numbers.read(from, different);
        int length = from.getInt();
        int packed = from.getInt();
        byte[] bytes = from.get(packed == 0 ? length : packed);
        if (packed > 0) {
            bytes = Zstd.decompress(bytes, length);
        }
        int[] ends = new int[different];
        long end = 0;
        for (int code = 0; code < different; code++) {
            end += lengths[code];
            ends[code] = Math.toIntExact(end);
        }
        if (end != bytes.length) {
            throw new IndexOutOfBoundsException((int) end);
        }
        return new Texts(bytes, ends, PackedNumbers.read(from, count));
    }

    /** Returns the number of values. */
    public int count() {
        return packed.count();
    }

    /** Returns the number of different values. */
    public int different() {
        return ends.length;
    }

    /**
     * Returns the code of a value.
     *
     * @throws IndexOutOfBoundsException if there is no such value or code
     */
    public int code(int index) {
        if (codes != null) {
            return codes[index];
        }
        long code = packed.get(index);
        if (code < 0 || code >= ends.length) {
            throw new IndexOutOfBoundsException("code " + code);
        }
        return (int) code;
    }

    /**
     * Returns the codes of all values; must not be changed.
     *
     * @throws IndexOutOfBoundsException if there is no such code
     */
    public int[] codes() {
        if (codes == null) {
            codes = packed.allSmall(ends.length);
        }
        return codes;
    }

    /** Returns the codes of all values, of which each must be that of a text. */
    public PackedNumbers packedCodes() {
        return packed;
    }

    /** Returns the array with all different texts. */
    public byte[] bytes() {
        return bytes;
    }

    /** Returns where the text of a code begins. */
    public int from(int code) {
        return code == 0 ? 0 : ends[code - 1];
    }

    /** Returns where the text of a code ends. */
    public int to(int code) {
        return ends[code];
    }
}
