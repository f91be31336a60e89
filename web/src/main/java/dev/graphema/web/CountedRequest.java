package dev.graphema.web;

import jakarta.servlet.ReadListener;
import jakarta.servlet.ServletInputStream;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletRequestWrapper;
import java.io.BufferedReader;
import java.io.IOException;

/** A request whose body is counted, and kept in part, while the servlet reads it. */
final class CountedRequest extends HttpServletRequestWrapper {
    private final BodyHead body;
    private ServletInputStream stream;
    private BufferedReader reader;

    CountedRequest(HttpServletRequest request, int bodyBytes) {
        super(request);
        body = new BodyHead(bodyBytes);
    }

    BodyHead body() {
        return body;
    }

    // The container's own stream and reader are asked first: they refuse what is not allowed.
    @Override
    public ServletInputStream getInputStream() throws IOException {
        ServletInputStream own = super.getInputStream();
        if (stream == null) {
            stream = new Stream(own);
        }
        return stream;
    }

    @Override
    public BufferedReader getReader() throws IOException {
        BufferedReader own = super.getReader();
        if (reader == null) {
            reader = new CountedReader(own, body, new EncodedLength(getCharacterEncoding()));
        }
        return reader;
    }

    private final class Stream extends ServletInputStream {
        private final ServletInputStream from;

        Stream(ServletInputStream from) {
            this.from = from;
        }

        @Override
        public int read() throws IOException {
            int octet = from.read();
            if (octet >= 0) {
                body.add(octet);
            }
            return octet;
        }

        @Override
        public int read(byte[] bytes, int offset, int length) throws IOException {
            int count = from.read(bytes, offset, length);
            if (count > 0) {
                body.add(bytes, offset, count);
            }
            return count;
        }

        @Override
        public int available() throws IOException {
            return from.available();
        }

        @Override
        public void close() throws IOException {
            from.close();
        }

        @Override
        public boolean isFinished() {
            return from.isFinished();
        }

        @Override
        public boolean isReady() {
            return from.isReady();
        }

        @Override
        public void setReadListener(ReadListener listener) {
            from.setReadListener(listener);
        }
    }
}
