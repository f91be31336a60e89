package skerry;

import dev.graphema.Context;
import dev.graphema.Graphema;
import dev.graphema.Operation;
import dev.graphema.web.RequestOptions;
import dev.graphema.web.ServletRequestFilter;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.util.Map;
import org.springframework.boot.web.servlet.FilterRegistrationBean;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.core.Ordered;
import org.springframework.core.task.TaskDecorator;
import org.springframework.http.HttpStatus;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RestController;
import org.springframework.web.servlet.HandlerInterceptor;
import org.springframework.web.servlet.HandlerMapping;
import org.springframework.web.servlet.config.annotation.InterceptorRegistry;
import org.springframework.web.servlet.config.annotation.WebMvcConfigurer;

/** Everything that connects the application with Graphema. */
@Configuration
class Logging {
    /** The first filter, so that it also records requests that another one rejects. */
    @Bean
    FilterRegistrationBean<ServletRequestFilter> requestEvents(Graphema graphema) {
        FilterRegistrationBean<ServletRequestFilter> filter = new FilterRegistrationBean<>(new ServletRequestFilter(
                graphema.logger("skerry.requests"),
                RequestOptions.builder().exclude("/health").build()));
        filter.setOrder(Ordered.HIGHEST_PRECEDENCE);
        filter.setAsyncSupported(true);
        return filter;
    }

    /** The route of a request is known when its handler was found. */
    @Bean
    WebMvcConfigurer routes() {
        HandlerInterceptor route = new HandlerInterceptor() {
            @Override
            public boolean preHandle(HttpServletRequest request, HttpServletResponse response, Object handler) {
                Object pattern = request.getAttribute(HandlerMapping.BEST_MATCHING_PATTERN_ATTRIBUTE);
                Operation.current().put("route", pattern);
                return true;
            }
        };
        return new WebMvcConfigurer() {
            @Override
            public void addInterceptors(InterceptorRegistry interceptors) {
                interceptors.addInterceptor(route);
            }
        };
    }

    /** Tasks of the framework's executors have the context and the trace of the code that starts them. */
    @Bean
    TaskDecorator contextOfTasks() {
        return task -> Context.capture().runnable(task);
    }

    @RestController
    record Health(Graphema graphema) {
        @GetMapping("/health")
        ResponseEntity<Map<String, Boolean>> health() {
            boolean isHealthy = graphema.isHealthy();
            HttpStatus status = isHealthy ? HttpStatus.OK : HttpStatus.SERVICE_UNAVAILABLE;
            return ResponseEntity.status(status).body(Map.of("logging", isHealthy));
        }
    }
}
