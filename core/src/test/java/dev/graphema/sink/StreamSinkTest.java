package dev.graphema.sink;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.ArgumentMatchers.anyInt;
import static org.mockito.Mockito.doThrow;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.never;
import static org.mockito.Mockito.verify;

import dev.graphema.event.Draft;
import dev.graphema.format.Format;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import org.junit.jupiter.api.Test;

class StreamSinkTest {
    private static final Format MESSAGE =
            (event, to) -> to.text(event.message()).ascii('\n');

    @Test
    void eventsAreWrittenWithTheFlush() throws IOException {
        ByteArrayOutputStream stream = new ByteArrayOutputStream();
        StreamSink sink = new StreamSink(stream, MESSAGE);
        sink.write(new Draft().message("one").finish());
        assertEquals(0, stream.size());
        sink.flush();

        assertEquals("one\n", stream.toString(StandardCharsets.UTF_8));
    }

    @Test
    void theStreamIsNotClosed() throws IOException {
        OutputStream stream = mock(OutputStream.class);
        StreamSink sink = new StreamSink(stream, MESSAGE);
        sink.flush();
        sink.close();

        verify(stream).flush();
        verify(stream, never()).close();
    }

    @Test
    void aBrokenStreamIsReportedAndNothingIsWrittenTwice() throws IOException {
        OutputStream stream = mock(OutputStream.class);
        doThrow(new IOException("broken pipe")).doNothing().when(stream).write(any(), anyInt(), anyInt());
        StreamSink sink = new StreamSink(stream, MESSAGE);
        sink.write(new Draft().message("one").finish());

        assertThrows(IOException.class, sink::flush);
        sink.flush();
        verify(stream).write(any(), anyInt(), org.mockito.ArgumentMatchers.eq(4));
        verify(stream).write(any(), anyInt(), org.mockito.ArgumentMatchers.eq(0));
    }
}
