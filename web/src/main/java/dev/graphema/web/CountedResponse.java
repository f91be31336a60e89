package dev.graphema.web;

import jakarta.servlet.ServletOutputStream;
import jakarta.servlet.WriteListener;
import jakarta.servlet.http.HttpServletResponse;
import jakarta.servlet.http.HttpServletResponseWrapper;
import java.io.IOException;
import java.io.OutputStreamWriter;
import java.io.PrintWriter;

/** A response whose body is counted as the servlet writes it. */
final class CountedResponse extends HttpServletResponseWrapper {
    private final BodyHead body = new BodyHead(0);
    private ServletOutputStream stream;
    private PrintWriter writer;

    CountedResponse(HttpServletResponse response) {
        super(response);
    }

    BodyHead body() {
        return body;
    }

    /** Hands on what the writer still holds, as the container does with its own at the end of a request. */
    void flushWriter() {
        if (writer != null) {
            writer.flush();
        }
    }

    @Override
    public ServletOutputStream getOutputStream() throws IOException {
        if (writer != null) {
            throw new IllegalStateException("the body is being written by getWriter() already");
        }
        return counting();
    }

    @Override
    public PrintWriter getWriter() throws IOException {
        if (writer == null) {
            if (stream != null) {
                throw new IllegalStateException("the body is being written by getOutputStream() already");
            }
            String encoding = getCharacterEncoding();
            // Asking for a writer fixes the encoding and names it in the content type.
            setCharacterEncoding(encoding);
            writer = new PrintWriter(new OutputStreamWriter(counting(), encoding));
        }
        return writer;
    }

    @Override
    public void flushBuffer() throws IOException {
        flushWriter();
        super.flushBuffer();
    }

    private ServletOutputStream counting() throws IOException {
        if (stream == null) {
            stream = new Stream(super.getOutputStream());
        }
        return stream;
    }

    private final class Stream extends ServletOutputStream {
        private final ServletOutputStream to;

        Stream(ServletOutputStream to) {
            this.to = to;
        }

        @Override
        public void write(int octet) throws IOException {
            to.write(octet);
            body.add(octet);
        }

        @Override
        public void write(byte[] bytes, int offset, int length) throws IOException {
            to.write(bytes, offset, length);
            body.add(bytes, offset, length);
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
}
