package skerry.booking;

import static org.mockito.ArgumentMatchers.any;
import static org.mockito.ArgumentMatchers.anyLong;
import static org.mockito.ArgumentMatchers.eq;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.verify;
import static org.mockito.Mockito.when;

import com.sun.net.httpserver.Headers;
import com.sun.net.httpserver.HttpExchange;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.net.URI;
import java.net.http.HttpTimeoutException;
import java.nio.charset.StandardCharsets;
import org.junit.jupiter.api.Test;

class BookingServiceTest {
    @Test
    void whenAnotherServiceDoesNotAnswerTheCallerGetsAnAnswerAllTheSame() throws Exception {
        BookingDesk desk = mock(BookingDesk.class);
        when(desk.confirm(any(), any(), any())).thenThrow(new HttpTimeoutException("request timed out"));
        HttpExchange exchange = exchange();

        new BookingService(desk).confirm(exchange);

        verify(exchange).sendResponseHeaders(eq(503), anyLong());
    }

    private static HttpExchange exchange() throws IOException {
        HttpExchange exchange = mock(HttpExchange.class);
        when(exchange.getRequestURI()).thenReturn(URI.create("/sailings/SK-204/bookings"));
        when(exchange.getRequestBody())
                .thenReturn(new ByteArrayInputStream("{\"booking\":\"B0047113\"}".getBytes(StandardCharsets.UTF_8)));
        when(exchange.getResponseHeaders()).thenReturn(new Headers());
        when(exchange.getResponseBody()).thenReturn(new ByteArrayOutputStream());
        return exchange;
    }
}
