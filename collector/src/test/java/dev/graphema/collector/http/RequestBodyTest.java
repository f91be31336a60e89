package dev.graphema.collector.http;

import static org.junit.jupiter.api.Assertions.assertArrayEquals;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.ArgumentMatchers.anyInt;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.when;

import jakarta.servlet.ServletInputStream;
import jakarta.servlet.http.HttpServletRequest;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import org.junit.jupiter.api.Test;

class RequestBodyTest {
    private static HttpServletRequest request(byte[] body) throws IOException {
        ByteArrayInputStream bytes = new ByteArrayInputStream(body);
        ServletInputStream input = mock(ServletInputStream.class);
        when(input.read(any(byte[].class), anyInt(), anyInt()))
                .thenAnswer(call -> bytes.read(call.getArgument(0), call.getArgument(1), call.getArgument(2)));
        HttpServletRequest request = mock(HttpServletRequest.class);
        when(request.getInputStream()).thenReturn(input);
        when(request.getContentLengthLong()).thenReturn(-1L);
        return request;
    }

    @Test
    void allBodiesTogetherHaveABoundedMemory() throws Exception {
        BodyMemory memory = new BodyMemory(1000);
        RequestBody first = new RequestBody(request(new byte[200]), memory);
        assertArrayEquals(new byte[200], first.read());
        assertEquals(600, first.taken());
        RequestBody second = new RequestBody(request(new byte[200]), memory);
        Problem problem = assertThrows(Problem.class, second::read);
        assertEquals(429, problem.status());
        assertTrue(problem.retryAfterSeconds() > 0);
        memory.release(first.taken());
        assertArrayEquals(new byte[200], new RequestBody(request(new byte[200]), memory).read());
    }

    @Test
    void aBodyWithoutALengthIsBoundedToo() throws IOException {
        byte[] endless = new byte[(16 << 20) + 1];
        RequestBody body = new RequestBody(request(endless), new BodyMemory(1L << 30));
        assertEquals(413, assertThrows(Problem.class, body::read).status());
    }

    @Test
    void aConnectionThatFailsIsNoDamage() throws IOException {
        HttpServletRequest request = mock(HttpServletRequest.class);
        ServletInputStream input = mock(ServletInputStream.class);
        when(input.read(any(byte[].class), anyInt(), anyInt())).thenThrow(new IOException("reset"));
        when(request.getInputStream()).thenReturn(input);
        RequestBody body = new RequestBody(request, new BodyMemory(1000));
        assertEquals("reset", assertThrows(IOException.class, body::read).getMessage());
    }
}
