package dev.graphema.web;

import jakarta.servlet.ReadListener;
import jakarta.servlet.ServletInputStream;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletRequestWrapper;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;

/** A request whose body is counted, and kept in part, as the servlet reads it. */
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

    @Override
    public ServletInputStream getInputStream() throws IOException {
        if (reader != null) {
            throw new IllegalStateException("the body is being read by getReader() already");
        }
        return counted();
    }

    @Override
    public BufferedReader getReader() throws IOException {
        if (reader == null) {
            if (stream != null) {
                throw new IllegalStateException("the body is being read by getInputStream() already");
            }
            String encoding = getCharacterEncoding();
            Charset charset = encoding == null ? StandardCharsets.ISO_8859_1 : Charset.forName(encoding);
            reader = new BufferedReader(new InputStreamReader(counted(), charset));
        }
        return reader;
    }

    private ServletInputStream counted() throws IOException {
        if (stream == null) {
            stream = new Stream(super.getInputStream());
        }
        return stream;
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
