package dev.graphema.collector.http;

import com.github.luben.zstd.ZstdInputStreamNoFinalizer;
import jakarta.servlet.http.HttpServletRequest;
import java.io.EOFException;
import java.io.IOException;
import java.io.InputStream;
import java.net.SocketTimeoutException;
import java.time.Duration;
import java.util.Arrays;
import java.util.Locale;
import java.util.zip.GZIPInputStream;
import java.util.zip.ZipException;

/** The body of a request, read with bounds for its bytes, before and after inflating, and for the time of all of it. */
final class RequestBody {
    private static final int MOST_SENT = 16 << 20;
    private static final int MOST_INFLATED = 64 << 20;

    /** What a byte of a body takes: the buffer has up to twice as much as was read, and is copied at the end. */
    private static final int MEMORY_OF_BYTE = 3;

    private static final Duration LONGEST = Duration.ofSeconds(30);
    private static final int PIECE = 16 << 10;

    private static final int SOON_SECONDS = 1;

    private final HttpServletRequest request;
    private final BodyMemory memory;
    private long taken;

    RequestBody(HttpServletRequest request, BodyMemory memory) {
        this.request = request;
        this.memory = memory;
    }

    /** Returns the memory that was taken for it, which the caller releases when the request is answered. */
    long taken() {
        return taken;
    }

    byte[] read() throws Problem, IOException {
        int mostInflated = (int) Math.min(MOST_INFLATED, memory.most() / MEMORY_OF_BYTE);
        if (request.getContentLengthLong() > MOST_SENT) {
            throw tooLong("sends " + request.getContentLengthLong(), MOST_SENT);
        }
        Sent sent = new Sent(request.getInputStream());
        try (InputStream body = inflated(sent)) {
            byte[] all = new byte[PIECE];
            int length = 0;
            int count;
            while ((count = body.read(all, length, Math.min(PIECE, all.length - length))) >= 0) {
                take(count);
                length += count;
                if (length > mostInflated) {
                    throw tooLong("inflates to more than " + mostInflated, mostInflated);
                }
                if (length == all.length) {
                    all = Arrays.copyOf(all, Math.min(2 * length, mostInflated + PIECE));
                }
            }
            return Arrays.copyOf(all, length);
        } catch (TooMuchException e) {
            throw tooLong("sends more than " + MOST_SENT, MOST_SENT);
        } catch (TooSlowException | SocketTimeoutException e) {
            throw new Problem(
                    408,
                    "The body is too slow",
                    "the body did not arrive within " + LONGEST.toSeconds() + " s: send smaller ones");
        } catch (ZipException | EOFException e) {
            throw damaged(e);
        } catch (IOException e) {
            if (sent.hasFailed) {
                throw e;
            }
            throw damaged(e); // of the decompression
        }
    }

    private void take(int count) throws Problem {
        long bytes = (long) MEMORY_OF_BYTE * count;
        if (!memory.take(bytes)) {
            throw new Problem(
                    429, "Too much at once", "more arrives than can be taken: send the same again later", SOON_SECONDS);
        }
        taken += bytes;
    }

    private static Problem damaged(IOException cause) {
        return new Problem(400, "The body is damaged", "the body cannot be inflated: " + cause.getMessage());
    }

    private static Problem tooLong(String what, int most) {
        return new Problem(
                413, "The body is too long", "the request " + what + " bytes: send at most " + most + " at a time");
    }

    private InputStream inflated(Sent sent) throws Problem, IOException {
        String encoding = request.getHeader("Content-Encoding");
        switch (encoding == null ? "identity" : encoding.strip().toLowerCase(Locale.ROOT)) {
            case "identity":
                return sent;
            case "gzip":
                return new GZIPInputStream(sent, PIECE / 2);
            case "zstd":
                return new ZstdInputStreamNoFinalizer(sent);
            default:
                throw new Problem(
                        415,
                        "The encoding is not known",
                        "Content-Encoding is \"" + encoding + "\": expected gzip, zstd or identity");
        }
    }

    private static final class TooMuchException extends IOException {
        private static final long serialVersionUID = 1;
    }

    private static final class TooSlowException extends IOException {
        private static final long serialVersionUID = 1;
    }

    /** What the client sends. */
    private static final class Sent extends InputStream {
        private final InputStream stream;
        private final long end = System.nanoTime() + LONGEST.toNanos();
        private long count;

        /** Whether the connection failed. */
        private boolean hasFailed;

        Sent(InputStream stream) {
            this.stream = stream;
        }

        @Override
        public int read() throws IOException {
            byte[] one = new byte[1];
            return read(one, 0, 1) < 0 ? -1 : one[0] & 0xFF;
        }

        @Override
        public int read(byte[] to, int from, int length) throws IOException {
            int read;
            try {
                read = stream.read(to, from, length);
            } catch (IOException e) {
                hasFailed = true;
                throw e;
            }
            if (System.nanoTime() - end > 0) {
                throw new TooSlowException();
            }
            count += Math.max(0, read);
            if (count > MOST_SENT) {
                throw new TooMuchException();
            }
            return read;
        }
    }
}
