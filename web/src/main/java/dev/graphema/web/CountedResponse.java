package dev.graphema.web;

import jakarta.servlet.ServletOutputStream;
import jakarta.servlet.http.HttpServletResponse;
import jakarta.servlet.http.HttpServletResponseWrapper;
import java.io.IOException;
import java.io.PrintWriter;

/**
 * A response whose body is counted while the servlet writes it. The writer and stream of the container do all the work:
 * nothing is buffered, encoded or flushed here, so that the response does not change.
 */
final class CountedResponse extends HttpServletResponseWrapper {
    private final BodyHead body = new BodyHead(0);
    private final String traceResponse;

    // A container may hand out another stream or writer after a reset or a forward: then ours is made anew, too.
    private ServletOutputStream ownStream;
    private ServletOutputStream stream;
    private PrintWriter ownWriter;
    private PrintWriter writer;

    /** @param traceResponse the value of the trace header, which is set again after a reset */
    CountedResponse(HttpServletResponse response, String traceResponse) {
        super(response);
        this.traceResponse = traceResponse;
        response.setHeader(RequestFilter.TRACERESPONSE, traceResponse);
    }

    BodyHead body() {
        return body;
    }

    @Override
    public ServletOutputStream getOutputStream() throws IOException {
        ServletOutputStream own = super.getOutputStream();
        if (own != ownStream) {
            ownStream = own;
            stream = new CountedOutput(own, body);
        }
        return stream;
    }

    @Override
    public PrintWriter getWriter() throws IOException {
        PrintWriter own = super.getWriter();
        if (own != ownWriter) {
            ownWriter = own;
            writer = new CountedWriter(own, body, new EncodedLength(getCharacterEncoding()));
        }
        return writer;
    }

    @Override
    public void resetBuffer() {
        super.resetBuffer();
        body.restart();
    }

    @Override
    public void reset() {
        super.reset();
        body.restart();
        setHeader(RequestFilter.TRACERESPONSE, traceResponse);
    }
}
