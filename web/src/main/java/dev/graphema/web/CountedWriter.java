package dev.graphema.web;

import java.io.PrintWriter;

/** Counts the text that is written to the writer of the container, in bytes of the encoding of the response. */
final class CountedWriter extends PrintWriter {
    private final PrintWriter to;
    private final BodyHead body;
    private final EncodedLength length;

    CountedWriter(PrintWriter to, BodyHead body, EncodedLength length) {
        super(to);
        this.to = to;
        this.body = body;
        this.length = length;
    }

    @Override
    public void write(int c) {
        to.write(c);
        body.skip(length.of(String.valueOf((char) c), 0, 1));
    }

    @Override
    public void write(char[] chars, int from, int count) {
        to.write(chars, from, count);
        body.skip(length.of(java.nio.CharBuffer.wrap(chars), from, count));
    }

    @Override
    public void write(String text, int from, int count) {
        to.write(text, from, count);
        body.skip(length.of(text, from, count));
    }

    // The container decides what a line end is.
    @Override
    public void println() {
        to.println();
        body.skip(System.lineSeparator().length());
    }

    @Override
    public void println(boolean value) {
        print(value);
        println();
    }

    @Override
    public void println(char value) {
        print(value);
        println();
    }

    @Override
    public void println(int value) {
        print(value);
        println();
    }

    @Override
    public void println(long value) {
        print(value);
        println();
    }

    @Override
    public void println(float value) {
        print(value);
        println();
    }

    @Override
    public void println(double value) {
        print(value);
        println();
    }

    @Override
    public void println(char[] value) {
        print(value);
        println();
    }

    @Override
    public void println(String value) {
        print(value);
        println();
    }

    @Override
    public void println(Object value) {
        print(String.valueOf(value));
        println();
    }

    @Override
    public void flush() {
        to.flush();
    }

    @Override
    public void close() {
        to.close();
    }

    @Override
    public boolean checkError() {
        return to.checkError();
    }
}
