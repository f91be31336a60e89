package dev.graphema.web;

import dev.graphema.Logger;
import dev.graphema.Operation;
import jakarta.servlet.AsyncEvent;
import jakarta.servlet.AsyncListener;
import jakarta.servlet.Filter;
import jakarta.servlet.FilterChain;
import jakarta.servlet.FilterConfig;
import jakarta.servlet.ServletException;
import jakarta.servlet.ServletRequest;
import jakarta.servlet.ServletResponse;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.util.Collections;
import java.util.Enumeration;
import java.util.List;
import java.util.Objects;

/**
 * Emits an event for each request to a servlet container (Jakarta Servlet 6). Register it as the first filter, for all
 * paths and with async support, so that it also records requests that a later filter rejects or that fail.
 *
 * <p>The event is the same as that of {@link RequestFilter}; its {@code route} is the pattern of the servlet. An
 * asynchronous request is recorded when it is complete. Exceptions are passed on to the container; if there is no
 * answer by then, the recorded status is 500, which the container will send.
 *
 * <p>In {@code web.xml}, or on a subclass with {@code @WebFilter}, these parameters configure it; lists are separated by
 * commas: {@code logger} (default: {@value #LOGGER}), {@code exclude}, {@code headers} and {@code query-parameters}, as in
 * {@link RequestOptions}, and {@code remote-address}: true.
 */
@SuppressWarnings("exports") // the module of its supertype is needed only by those who use it
public class ServletRequestFilter implements Filter {
    /** An attribute of a request that is being recorded, so that a dispatch within it is not. */
    private static final String LOGGED = ServletRequestFilter.class.getName();

    /** The name of the logger unless another one is given. */
    public static final String LOGGER = "dev.graphema.web";

    private static final List<String> PARAMETERS =
            List.of("exclude", "headers", "logger", "query-parameters", "remote-address");

    private volatile Logger log;
    private volatile RequestOptions options;

    /** A filter that a container creates, and configures by {@link #init}. */
    public ServletRequestFilter() {
        this(Logger.named(LOGGER), RequestOptions.USUAL);
    }

    /** A filter with these options. */
    public ServletRequestFilter(Logger log, RequestOptions options) {
        this.log = Objects.requireNonNull(log, "log");
        this.options = Objects.requireNonNull(options, "options");
    }

    /** Returns a filter that records all requests. */
    public static ServletRequestFilter of(Logger log) {
        return of(log, RequestOptions.USUAL);
    }

    public static ServletRequestFilter of(Logger log, RequestOptions options) {
        return new ServletRequestFilter(log, options);
    }

    /**
     * Reads the parameters, if there are any.
     *
     * @throws ServletException if a parameter is unknown
     */
    @Override
    public void init(FilterConfig config) throws ServletException {
        List<String> given = Collections.list(config.getInitParameterNames());
        for (String name : given) {
            if (!PARAMETERS.contains(name)) {
                throw new ServletException("the filter " + config.getFilterName() + " has a parameter \"" + name
                        + "\": expected one of " + String.join(", ", PARAMETERS));
            }
        }
        if (given.contains("logger")) {
            log = Logger.named(config.getInitParameter("logger").strip());
        }
        given.remove("logger");
        if (!given.isEmpty()) {
            RequestOptions.Builder builder = RequestOptions.builder()
                    .exclude(list(config, "exclude"))
                    .headers(list(config, "headers"))
                    .queryParameters(list(config, "query-parameters"));
            if ("true".equals(config.getInitParameter("remote-address"))) {
                builder.remoteAddress();
            }
            options = builder.build();
        }
    }

    private static String[] list(FilterConfig config, String name) {
        String given = config.getInitParameter(name);
        return given == null || given.isBlank() ? new String[0] : given.strip().split("\\s*,\\s*");
    }

    @Override
    public void doFilter(ServletRequest request, ServletResponse response, FilterChain chain)
            throws IOException, ServletException {
        boolean isTold = request instanceof HttpServletRequest asked
                && response instanceof HttpServletResponse
                && request.getAttribute(LOGGED) == null
                && !options.excludes(asked.getRequestURI());
        if (isTold) {
            log((HttpServletRequest) request, (HttpServletResponse) response, chain);
        } else {
            chain.doFilter(request, response);
        }
    }

    private void log(HttpServletRequest request, HttpServletResponse response, FilterChain chain)
            throws IOException, ServletException {
        request.setAttribute(LOGGED, true);
        RequestEvent event = RequestEvent.begin(log, options, name -> header(request, name));
        Operation operation = event.operation();
        event.asked(
                request.getMethod(),
                request.getHttpServletMapping().getPattern(),
                request.getRequestURI(),
                request.getQueryString(),
                request.getRemoteAddr(),
                name -> header(request, name));
        CountedRequest countedRequest =
                new CountedRequest(request, options.bodyBytes(request.getMethod(), request.getContentType()));
        CountedResponse countedResponse =
                new CountedResponse(response, operation.correlation().header());
        Throwable thrown = null;
        try {
            chain.doFilter(countedRequest, countedResponse);
        } catch (Throwable e) {
            thrown = e;
            throw e;
        } finally {
            Ending ending = new Ending(event, countedRequest, countedResponse);
            if (thrown == null && request.isAsyncStarted()) {
                operation.detach();
                ending.awaitCompletion(request);
            } else {
                ending.end(thrown);
            }
        }
    }

    private static String header(HttpServletRequest request, String name) {
        Enumeration<String> values = request.getHeaders(name);
        return values == null || !values.hasMoreElements() ? null : String.join(",", Collections.list(values));
    }

    /** Records the request when it is complete, synchronously or asynchronously. */
    private static final class Ending implements AsyncListener {
        private final RequestEvent event;
        private final CountedRequest request;
        private final CountedResponse response;
        private Throwable problem;

        Ending(RequestEvent event, CountedRequest request, CountedResponse response) {
            this.event = event;
            this.request = request;
            this.response = response;
        }

        void awaitCompletion(HttpServletRequest asked) {
            try {
                asked.getAsyncContext().addListener(this);
            } catch (IllegalStateException e) {
                end(null); // it was complete, or had timed out, before this thread came back
            }
        }

        void end(Throwable thrown) {
            boolean answersByContainer = thrown != null && !response.isCommitted();
            event.answered(answersByContainer ? 500 : response.getStatus(), request.body(), response.body());
            if (thrown != null) {
                event.failed(thrown);
            }
            event.operation().close();
        }

        @Override
        public void onComplete(AsyncEvent done) {
            end(problem);
        }

        @Override
        public void onTimeout(AsyncEvent late) {
            problem = new java.util.concurrent.TimeoutException("the asynchronous request took too long");
        }

        @Override
        public void onError(AsyncEvent failed) {
            problem = failed.getThrowable();
        }

        @Override
        public void onStartAsync(AsyncEvent again) {
            again.getAsyncContext().addListener(this);
        }
    }
}
