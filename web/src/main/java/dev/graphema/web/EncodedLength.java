package dev.graphema.web;

import java.nio.charset.Charset;
import java.nio.charset.IllegalCharsetNameException;
import java.nio.charset.StandardCharsets;
import java.nio.charset.UnsupportedCharsetException;

/** Computes the length of text in an encoding. */
final class EncodedLength {
    private final Charset charset;

    /** @param name the name of an encoding; an unknown one counts as UTF-8 */
    EncodedLength(String name) {
        charset = charset(name);
    }

    private static Charset charset(String name) {
        try {
            return name == null ? StandardCharsets.ISO_8859_1 : Charset.forName(name);
        } catch (IllegalCharsetNameException | UnsupportedCharsetException e) {
            return StandardCharsets.UTF_8; // then the container refuses it as well
        }
    }

    long of(CharSequence text, int from, int count) {
        if (charset == StandardCharsets.ISO_8859_1 || charset == StandardCharsets.US_ASCII) {
            return count;
        }
        if (charset != StandardCharsets.UTF_8) {
            return text.subSequence(from, from + count).toString().getBytes(charset).length;
        }
        long bytes = 0;
        for (int i = from; i < from + count; i++) {
            char c = text.charAt(i);
            // Two halves of a pair have four bytes together.
            bytes += c < 0x80 ? 1 : c < 0x800 || Character.isSurrogate(c) ? 2 : 3;
        }
        return bytes;
    }
}
