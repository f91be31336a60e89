package dev.graphema.web;

import jakarta.servlet.ServletOutputStream;
import jakarta.servlet.WriteListener;
import java.io.IOException;

/** Counts the bytes that are written to the stream of the container. */
final class CountedOutput extends ServletOutputStream {
    private final ServletOutputStream to;
    private final BodyHead body;

    CountedOutput(ServletOutputStream to, BodyHead body) {
        this.to = to;
        this.body = body;
    }

    @Override
    public void write(int octet) throws IOException {
        to.write(octet);
        body.add(octet);
    }

    @Override
    public void write(byte[] bytes) throws IOException {
        write(bytes, 0, bytes.length);
    }

    @Override
    public void write(byte[] bytes, int offset, int length) throws IOException {
        to.write(bytes, offset, length);
        body.add(bytes, offset, length);
    }

    // Containers encode text in their own way.
    @Override
    public void print(String text) throws IOException {
        to.print(text);
        body.skip(text == null ? "null".length() : text.length());
    }

    @Override
    public void println() throws IOException {
        to.println();
        body.skip(2);
    }

    @Override
    public void println(String text) throws IOException {
        print(text);
        println();
    }

    @Override
    public void flush() throws IOException {
        to.flush();
    }

    @Override
    public void close() throws IOException {
        to.close();
    }

    @Override
    public boolean isReady() {
        return to.isReady();
    }

    @Override
    public void setWriteListener(WriteListener listener) {
        to.setWriteListener(listener);
    }
}
