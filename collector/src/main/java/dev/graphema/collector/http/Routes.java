package dev.graphema.collector.http;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonGenerator;
import jakarta.servlet.http.HttpServlet;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.util.Map;
import java.util.function.Consumer;
import java.util.stream.Collectors;
import org.apache.coyote.CloseNowException;

/** Finds the endpoint of a request, and answers problems as documents (RFC 9457). */
final class Routes extends HttpServlet {
    private static final long serialVersionUID = 1;
    private static final JsonFactory JSON = new JsonFactory();

    private static final int RETRY_SECONDS = 5;

    /** The share of the memory that bodies may take together, and its bound in bytes. */
    private static final int PART_FOR_BODIES = 4;

    private static final long MOST_BODY_MEMORY = 256 << 20;

    private final transient Map<String, Endpoint> endpoints;
    private final transient BodyMemory memory =
            new BodyMemory(Math.min(MOST_BODY_MEMORY, Runtime.getRuntime().maxMemory() / PART_FOR_BODIES));

    private final transient Requests requests;
    private final transient Connections connections;
    private final transient Consumer<String> problems;

    /** @param problems receives what the operator should know */
    Routes(Map<String, Endpoint> endpoints, Requests requests, Connections connections, Consumer<String> problems) {
        this.problems = problems;
        this.connections = connections;
        this.requests = requests;
        this.endpoints = Map.copyOf(endpoints);
    }

    @Override
    protected void service(HttpServletRequest request, HttpServletResponse response) throws IOException {
        response.setHeader("X-Content-Type-Options", "nosniff");
        Call call = new Call(request, response, memory);
        connections.begun(request);
        try {
            requireSameSite(request);
            endpoint(request, response).answer(call);
        } catch (Problem e) {
            send(e, request, response);
        } catch (OutOfMemoryError e) {
            problems.accept(asked(request) + " needed more memory than there is");
            send(
                    new Problem(503, "Too little memory", "try again, with less at once", RETRY_SECONDS),
                    request,
                    response);
        } catch (RuntimeException e) {
            problems.accept(asked(request) + " failed: " + e + " at " + e.getStackTrace()[0] + "; please report it");
            send(new Problem(500, "An error in the collector", "what failed is in its own output"), request, response);
        } finally {
            call.done();
            if (!request.isAsyncStarted()) {
                connections.answered(request);
            }
            String asked = asked(request);
            requests.count(
                    endpoints.containsKey(asked) ? asked : folder(asked) != null ? folder(asked) : "other",
                    response.getStatus());
        }
    }

    private static String asked(HttpServletRequest request) {
        return request.getMethod() + " " + request.getRequestURI();
    }

    /**
     * Refuses what a page of another site sends through the browser of someone who may use this server (Fetch standard). A link to the
     * page may be on any site: the page itself contains nothing that is secret.
     */
    private static void requireSameSite(HttpServletRequest request) throws Problem {
        if (request.getMethod().equals("GET") && request.getRequestURI().equals("/")) {
            return;
        }
        String origin = request.getHeader("Origin");
        String host = request.getHeader("Host");
        boolean isOfOther = origin != null && !origin.equals("http://" + host) && !origin.equals("https://" + host);
        if (isOfOther || "cross-site".equals(request.getHeader("Sec-Fetch-Site"))) {
            throw new Problem(
                    403,
                    "A request of another site",
                    "pages of other sites may not use this server: open its own address");
        }
    }

    private Endpoint endpoint(HttpServletRequest request, HttpServletResponse response) throws Problem {
        String path = request.getRequestURI();
        Endpoint endpoint = endpoints.get(asked(request));
        String folder = folder(asked(request));
        if (endpoint != null || folder != null) {
            return endpoint != null ? endpoint : endpoints.get(folder);
        }
        String methods = endpoints.keySet().stream()
                .filter(each -> each.endsWith(" " + path))
                .map(each -> each.substring(0, each.indexOf(' ')))
                .sorted()
                .collect(Collectors.joining(", "));
        if (methods.isEmpty()) {
            throw new Problem(
                    404,
                    "There is nothing here",
                    "\"" + path + "\" is no address: expected one that GET /openapi.json describes");
        }
        response.setHeader("Allow", methods);
        throw new Problem(405, "The method is not allowed", "expected " + methods);
    }

    /** Returns the endpoint for all files of a folder, such as {@code GET /page/}; null if there is none. */
    private String folder(String asked) {
        return endpoints.keySet().stream()
                .filter(each -> each.endsWith("/") && asked.startsWith(each) && each.indexOf('/') < each.length() - 1)
                .findFirst()
                .orElse(null);
    }

    private void send(Problem problem, HttpServletRequest request, HttpServletResponse response) throws IOException {
        if (response.isCommitted()) {
            problems.accept("the answer to " + asked(request) + " was cut off: " + problem.getMessage());
            // The container closes the connection, so that the client notices.
            throw new CloseNowException("the answer was cut off", problem);
        }
        response.resetBuffer();
        response.setStatus(problem.status());
        response.setContentType("application/problem+json");
        if (problem.status() == 401) {
            response.setHeader("WWW-Authenticate", "Bearer");
        }
        if (problem.retryAfterSeconds() > 0) {
            response.setHeader("Retry-After", Integer.toString(problem.retryAfterSeconds()));
        }
        try (JsonGenerator json = JSON.createGenerator(response.getOutputStream())) {
            json.writeStartObject();
            json.writeStringField("title", problem.title());
            json.writeNumberField("status", problem.status());
            json.writeStringField("detail", problem.getMessage());
            if (problem.column() > 0) {
                json.writeNumberField("column", problem.column());
            }
            json.writeEndObject();
        }
    }
}
