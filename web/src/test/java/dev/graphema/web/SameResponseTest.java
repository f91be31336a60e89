package dev.graphema.web;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.Logger;
import jakarta.servlet.AsyncContext;
import jakarta.servlet.DispatcherType;
import jakarta.servlet.ServletException;
import jakarta.servlet.ServletOutputStream;
import jakarta.servlet.WriteListener;
import jakarta.servlet.http.HttpServlet;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.Socket;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.EnumSet;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.eclipse.jetty.ee10.servlet.FilterHolder;
import org.eclipse.jetty.ee10.servlet.ServletContextHandler;
import org.eclipse.jetty.ee10.servlet.ServletHolder;
import org.eclipse.jetty.server.Server;
import org.eclipse.jetty.server.ServerConnector;
import org.eclipse.jetty.server.handler.ContextHandlerCollection;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** Servlets of many kinds, each served by a real container with and without the filter: both responses have the same bytes. */
class SameResponseTest {
    private static final Server SERVER = new Server(new InetSocketAddress(InetAddress.getLoopbackAddress(), 0));
    private static final Map<String, Work> SERVLETS = servlets();

    /** What a servlet does, without the class around it. */
    private interface Work {
        void serve(HttpServletRequest request, HttpServletResponse response) throws IOException, ServletException;
    }

    private static Map<String, Work> servlets() {
        Map<String, Work> all = new LinkedHashMap<>();
        all.put("empty", (request, response) -> {});
        all.put("writer", (request, response) -> response.getWriter().print("lane"));
        all.put("lines", (request, response) -> {
            response.getWriter().println("lane");
            response.getWriter().println(7);
            response.getWriter().printf("%s %d%n", "é", 3);
        });
        all.put("utf8", (request, response) -> {
            response.setContentType("text/html;charset=utf-8");
            response.getWriter().append("lané ").append('x').write("😀".toCharArray());
        });
        all.put("json", (request, response) -> {
            response.setContentType("application/json");
            response.getWriter().print("{\"lane\":\"é\"}");
        });
        all.put("stream", (request, response) -> response.getOutputStream().write(new byte[] {1, 2, 3}));
        all.put("stream-text", (request, response) -> {
            response.getOutputStream().print("lane ");
            response.getOutputStream().println(true);
        });
        all.put("length", (request, response) -> {
            response.setContentLength(4);
            response.getOutputStream().print("lane");
        });
        all.put("large", (request, response) -> {
            for (int i = 0; i < 20_000; i++) {
                response.getWriter().print("0123456789");
            }
        });
        all.put("flushed", (request, response) -> {
            response.getWriter().print("a");
            response.flushBuffer();
            response.getWriter().print("b");
        });
        all.put("reset-buffer", (request, response) -> {
            response.getWriter().print("discarded");
            response.resetBuffer();
            response.getWriter().print("kept");
        });
        all.put("reset", (request, response) -> {
            response.setHeader("X-Gone", "1");
            response.getWriter().print("discarded");
            response.reset();
            response.getOutputStream().print("kept");
        });
        all.put("forward", (request, response) -> {
            response.getWriter().print("discarded");
            request.getRequestDispatcher("/json").forward(request, response);
        });
        all.put("include", (request, response) -> {
            response.getWriter().print("[");
            request.getRequestDispatcher("/writer").include(request, response);
            response.getWriter().print("]");
        });
        all.put("error", (request, response) -> {
            response.getWriter().print("discarded");
            response.sendError(404, "no such lane");
        });
        all.put("redirect", (request, response) -> response.sendRedirect("/elsewhere"));
        all.put("thrown", (request, response) -> {
            throw new ServletException("refused");
        });
        all.put("thrown-late", (request, response) -> {
            response.getWriter().print("partial");
            throw new IllegalStateException("refused");
        });
        all.put("not-modified", (request, response) -> response.setStatus(304));
        all.put("both", (request, response) -> {
            response.getWriter().print("a");
            try {
                response.getOutputStream();
            } catch (IllegalStateException e) {
                response.getWriter().print(" refused");
            }
        });
        all.put("async", (request, response) -> {
            AsyncContext async = request.startAsync();
            async.start(() -> {
                try {
                    async.getResponse().getWriter().print("later");
                } catch (IOException e) {
                    throw new IllegalStateException(e);
                }
                async.complete();
            });
        });
        all.put("async-own-response", (request, response) -> {
            AsyncContext async = request.startAsync(request, response);
            async.start(() -> {
                try {
                    response.getWriter().print("later");
                } catch (IOException e) {
                    throw new IllegalStateException(e);
                }
                async.complete();
            });
        });
        all.put("non-blocking", (request, response) -> {
            AsyncContext async = request.startAsync();
            ServletOutputStream out = response.getOutputStream();
            out.setWriteListener(new WriteListener() {
                private boolean written;

                @Override
                public void onWritePossible() throws IOException {
                    if (!written && out.isReady()) {
                        written = true;
                        out.write("when possible".getBytes(StandardCharsets.UTF_8));
                    }
                    if (written && out.isReady()) {
                        async.complete();
                    }
                }

                @Override
                public void onError(Throwable problem) {
                    async.complete();
                }
            });
        });
        all.put(
                "echo-lines",
                (request, response) -> request.getReader().lines().forEach(line -> print(response, line + "|")));
        all.put(
                "echo-bytes",
                (request, response) -> response.getOutputStream()
                        .write(request.getInputStream().readAllBytes()));
        return all;
    }

    private static void print(HttpServletResponse response, String text) {
        try {
            response.getWriter().print(text);
        } catch (IOException e) {
            throw new IllegalStateException(e);
        }
    }

    static Stream<String> names() {
        return SERVLETS.keySet().stream();
    }

    @BeforeAll
    static void start() throws Exception {
        ServletContextHandler plain = new ServletContextHandler("/plain");
        ServletContextHandler counted = new ServletContextHandler("/count");
        for (ServletContextHandler context : new ServletContextHandler[] {plain, counted}) {
            SERVLETS.forEach((name, work) -> {
                ServletHolder holder = new ServletHolder(new HttpServlet() {
                    private static final long serialVersionUID = 1;

                    @Override
                    protected void service(HttpServletRequest request, HttpServletResponse response)
                            throws ServletException, IOException {
                        work.serve(request, response);
                    }
                });
                holder.setAsyncSupported(true);
                context.addServlet(holder, "/" + name);
            });
        }
        FilterHolder filter = new FilterHolder(ServletRequestFilter.of(
                Logger.named("skerry.web"),
                RequestOptions.builder().body(100, "text/plain").build()));
        filter.setAsyncSupported(true);
        counted.addFilter(filter, "/*", EnumSet.allOf(DispatcherType.class));
        SERVER.setHandler(new ContextHandlerCollection(plain, counted));
        SERVER.start();
    }

    @AfterAll
    static void end() throws Exception {
        SERVER.stop();
    }

    @ParameterizedTest
    @MethodSource("names")
    void theFilterChangesNothingButOneHeader(String name) throws IOException {
        String plain = response("/plain/" + name);
        String counted = response("/count/" + name);

        assertTrue(plain.startsWith("HTTP/1.1 "), plain);
        assertEquals(
                plain.replace("/plain/", "/x/"),
                counted.replace("/count/", "/x/").replaceAll("(?i)traceresponse: [^\r]*\r\n", ""));
    }

    /** The bytes of the response, each as a character, without the moment. */
    private static String response(String path) throws IOException {
        int port = ((ServerConnector) SERVER.getConnectors()[0]).getLocalPort();
        try (Socket socket = new Socket(InetAddress.getLoopbackAddress(), port)) {
            String body = "one\r\ntwo é\nthree";
            socket.getOutputStream()
                    .write(("POST " + path + " HTTP/1.1\r\nHost: localhost\r\nConnection: close\r\n"
                                    + "Content-Type: text/plain;charset=utf-8\r\nContent-Length: "
                                    + body.getBytes(StandardCharsets.UTF_8).length + "\r\n\r\n" + body)
                            .getBytes(StandardCharsets.UTF_8));
            String all = new String(socket.getInputStream().readAllBytes(), StandardCharsets.ISO_8859_1);
            return Arrays.stream(all.split("(?<=\r\n)"))
                    .filter(line -> !line.startsWith("Date: "))
                    .collect(Collectors.joining());
        }
    }
}
