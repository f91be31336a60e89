package dev.graphema.web;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.when;

import dev.graphema.Correlation;
import dev.graphema.Graphema;
import dev.graphema.event.Event;
import dev.graphema.event.Level;
import dev.graphema.sink.MemorySink;
import jakarta.servlet.AsyncContext;
import jakarta.servlet.DispatcherType;
import jakarta.servlet.Filter;
import jakarta.servlet.FilterConfig;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServlet;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.http.HttpResponse;
import java.time.Duration;
import java.util.Collections;
import java.util.EnumSet;
import java.util.List;
import org.eclipse.jetty.ee10.servlet.ErrorPageErrorHandler;
import org.eclipse.jetty.ee10.servlet.FilterHolder;
import org.eclipse.jetty.ee10.servlet.ServletContextHandler;
import org.eclipse.jetty.ee10.servlet.ServletHolder;
import org.eclipse.jetty.server.Server;
import org.eclipse.jetty.server.ServerConnector;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;

/** A real servlet container on loopback. */
class ServletEventsTest {
    private static final String CALLER = "00-4bf92f3577b34da6a3ce929d0e0e4736-00f067aa0ba902b7-01";

    private final Server server = new Server(new InetSocketAddress(InetAddress.getLoopbackAddress(), 0));
    private final WebFixture fixture =
            new WebFixture(() -> ((ServerConnector) server.getConnectors()[0]).getLocalPort());
    private final ServletContextHandler context = new ServletContextHandler();

    /** What a servlet does, without the class around it. */
    private interface Work {
        void serve(HttpServletRequest request, HttpServletResponse response) throws Exception;
    }

    @AfterEach
    void end() throws Exception {
        server.stop();
        fixture.close();
    }

    @Test
    void aRequestIsReportedWithRouteAndSizesAndTheTraceGoesOn() throws Exception {
        RequestOptions options = RequestOptions.builder()
                .headers("X-Channel")
                .queryParameters("day")
                .remoteAddress()
                .body(100, "application/json")
                .build();
        start(options, (request, response) -> {
            request.getReader().lines().forEach(line -> {});
            fixture.log.info("inside");
            response.setContentType("text/plain; charset=utf-8");
            response.getWriter().print("lané");
        });
        HttpResponse<String> response = fixture.client.send(
                java.net.http.HttpRequest.newBuilder(
                                fixture.post("/sailings/SK-204?day=today&token=secret", "application/json", "{}"),
                                (n, v) -> true)
                        .header("traceparent", CALLER)
                        .header("X-Channel", "app")
                        .build(),
                HttpResponse.BodyHandlers.ofString());
        List<Event> events = fixture.events(2);
        Event inside = events.get(0);
        Event request = events.get(1);

        assertEquals("lané", response.body());
        assertEquals("request", request.message());
        assertEquals("POST", request.fields().get("method"));
        assertEquals("/sailings/*", request.fields().get("route"));
        assertEquals("/sailings/SK-204", request.fields().get("path"));
        assertEquals("day=today&token=[hidden]", request.fields().get("query"));
        assertEquals("app", request.fields().get("headers.x-channel"));
        assertEquals("127.0.0.1", request.fields().get("remote"));
        assertEquals(200L, request.fields().get("status"));
        assertEquals("{}", request.fields().get("body"));
        assertEquals(2L, request.fields().get("request_bytes"));
        assertEquals(5L, request.fields().get("response_bytes"));
        assertEquals("success", request.fields().get("outcome"));
        assertEquals("4bf92f3577b34da6a3ce929d0e0e4736", request.trace().toString());
        assertEquals("00f067aa0ba902b7", request.parent().toString());
        assertEquals(request.span(), inside.span());
        assertTrue(response.headers()
                .firstValue("traceresponse")
                .orElseThrow()
                .contains(request.span().toString()));
    }

    @Test
    void aStreamIsCountedLikeAWriter() throws Exception {
        start(RequestOptions.USUAL, (request, response) -> {
            assertEquals(3, request.getInputStream().readAllBytes().length);
            response.getOutputStream().write(new byte[1_000]);
            response.getOutputStream().write(7);
        });
        fixture.client.send(fixture.post("/sailings/x", "text/plain", "abc"), HttpResponse.BodyHandlers.discarding());

        assertEquals(3L, fixture.single().fields().get("request_bytes"));
        assertEquals(1_001L, fixture.single().fields().get("response_bytes"));
        assertFalse(fixture.single().fields().has("body"));
    }

    @Test
    void aRequestRefusedByALaterFilterIsReported() throws Exception {
        start(
                RequestOptions.USUAL,
                (request, response) -> response.setStatus(200),
                (request, response, chain) -> ((HttpServletResponse) response).sendError(401, "who are you"));
        assertEquals(401, get("/sailings/x").statusCode());

        assertEquals(401L, fixture.single().fields().get("status"));
        assertEquals("success", fixture.single().fields().get("outcome"));
    }

    @Test
    void aRequestThatThrowsIsReportedOnceAndTheContainerHandlesItAsBefore() throws Exception {
        ErrorPageErrorHandler errors = new ErrorPageErrorHandler();
        errors.addErrorPage(IllegalStateException.class, "/sorry");
        context.setErrorHandler(errors);
        context.addServlet(
                new ServletHolder(
                        servlet((request, response) -> response.getWriter().print("sorry page"))),
                "/sorry");
        start(RequestOptions.USUAL, (request, response) -> {
            throw new IllegalStateException("deck plan lost");
        });
        HttpResponse<String> response = get("/sailings/x");
        Event event = fixture.single();

        assertEquals("sorry page", response.body());
        assertEquals(500, response.statusCode());
        assertEquals(500L, event.fields().get("status"));
        assertEquals("deck plan lost", event.failure().message());
        assertEquals(Level.ERROR, event.level());
    }

    @Test
    void anAsynchronousRequestIsReportedWhenItIsComplete() throws Exception {
        start(RequestOptions.USUAL, (request, response) -> {
            AsyncContext async = request.startAsync(request, response);
            new Thread(() -> {
                        try {
                            response.setStatus(202);
                            response.getOutputStream().print("later");
                        } catch (IOException e) {
                            response.setStatus(500);
                        }
                        async.complete();
                    })
                    .start();
        });
        assertEquals("later", get("/sailings/x").body());

        assertEquals(202L, fixture.single().fields().get("status"));
        assertEquals(5L, fixture.single().fields().get("response_bytes"));
        assertEquals("success", fixture.single().fields().get("outcome"));
    }

    @Test
    void anAsynchronousRequestThatTakesTooLongIsAFailure() throws Exception {
        start(RequestOptions.USUAL, (request, response) -> request.startAsync().setTimeout(300));
        assertEquals(500, get("/sailings/x").statusCode());

        assertEquals(
                "java.util.concurrent.TimeoutException",
                fixture.single().failure().type());
    }

    @Test
    void excludedPathsAreServedButNotReported() throws Exception {
        start(
                RequestOptions.builder().exclude("/sailings/health").build(),
                (request, response) -> response.setStatus(204));
        assertEquals(204, get("/sailings/health").statusCode());
        get("/sailings/x");

        assertEquals("/sailings/x", fixture.single().fields().get("path"));
    }

    @Test
    void aPooledThreadKeepsNothingOfTheRequest() throws Exception {
        Correlation[] after = new Correlation[1];
        context.addFilter(
                new FilterHolder((Filter) (request, response, chain) -> {
                    chain.doFilter(request, response);
                    after[0] = Correlation.current();
                }),
                "/*",
                EnumSet.of(DispatcherType.REQUEST));
        start(RequestOptions.USUAL, (request, response) -> response.setStatus(200));
        get("/sailings/x");
        fixture.single();
        server.stop();

        assertEquals(Correlation.NONE, after[0]);
    }

    @Test
    void aContainerCreatesAndConfiguresTheFilter() throws Exception {
        FilterHolder registered = new FilterHolder(ServletRequestFilter.class);
        registered.setAsyncSupported(true);
        registered.setInitParameter("logger", "skerry.requests");
        registered.setInitParameter("exclude", "/sailings/health, /sailings/static/*");
        registered.setInitParameter("headers", "X-Channel");
        registered.setInitParameter("query-parameters", "day");
        registered.setInitParameter("remote-address", "true");
        context.addFilter(registered, "/*", EnumSet.of(DispatcherType.REQUEST));
        context.addServlet(new ServletHolder(servlet((request, response) -> response.setStatus(204))), "/sailings/*");
        server.setHandler(context);
        MemorySink sink = new MemorySink();
        try (Graphema shared = Graphema.build(s -> s.sink("memory", sink))) {
            server.start();
            get("/sailings/health");
            get("/sailings/x?day=today");
            server.stop();
            assertTrue(shared.flush(Duration.ofMinutes(1)));
            assertEquals(1, sink.events().size(), sink.events().toString());
            Event event = sink.events().get(0);
            assertEquals("skerry.requests", event.logger());
            assertEquals("day=today", event.fields().get("query"));
            assertEquals("127.0.0.1", event.fields().get("remote"));
            assertFalse(event.fields().has("headers"), "the wanted header is absent");
        }
    }

    @Test
    void anUnknownParameterOfTheFilterIsRejected() {
        FilterConfig config = mock(FilterConfig.class);
        when(config.getFilterName()).thenReturn("requests");
        when(config.getInitParameterNames()).thenReturn(Collections.enumeration(List.of("exlude")));
        ServletException e = assertThrows(ServletException.class, () -> new ServletRequestFilter().init(config));
        assertEquals(
                "the filter requests has a parameter \"exlude\": expected one of exclude, headers, logger,"
                        + " query-parameters, remote-address",
                e.getMessage());
    }

    private void start(RequestOptions options, Work work, Filter... more) throws Exception {
        FilterHolder first = new FilterHolder(ServletRequestFilter.of(fixture.log, options));
        first.setAsyncSupported(true);
        context.addFilter(first, "/*", EnumSet.of(DispatcherType.REQUEST, DispatcherType.ERROR, DispatcherType.ASYNC));
        for (Filter filter : more) {
            context.addFilter(new FilterHolder(filter), "/*", EnumSet.of(DispatcherType.REQUEST));
        }
        ServletHolder holder = new ServletHolder(servlet(work));
        holder.setAsyncSupported(true);
        context.addServlet(holder, "/sailings/*");
        server.setHandler(context);
        server.start();
    }

    private HttpResponse<String> get(String path) throws Exception {
        return fixture.client.send(fixture.request(path).build(), HttpResponse.BodyHandlers.ofString());
    }

    private static HttpServlet servlet(Work work) {
        return new HttpServlet() {
            private static final long serialVersionUID = 1;

            @Override
            protected void service(HttpServletRequest request, HttpServletResponse response) throws IOException {
                try {
                    work.serve(request, response);
                } catch (IOException | RuntimeException e) {
                    throw e;
                } catch (Exception e) {
                    throw new IOException(e);
                }
            }
        };
    }
}
