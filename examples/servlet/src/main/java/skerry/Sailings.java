package skerry;

import dev.graphema.Graphema;
import dev.graphema.Logger;
import dev.graphema.event.Level;
import dev.graphema.platform.PlatformEvents;
import dev.graphema.web.RequestOptions;
import dev.graphema.web.ServletRequestFilter;
import jakarta.servlet.http.HttpServlet;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.file.Files;
import org.apache.catalina.Context;
import org.apache.catalina.startup.Tomcat;
import org.apache.tomcat.util.descriptor.web.FilterDef;
import org.apache.tomcat.util.descriptor.web.FilterMap;

/** A servlet with the request filter in front of it; the events of the servlet belong to the request. */
public final class Sailings {
    private static final Logger log = Logger.of(Sailings.class);

    public static void main(String[] arguments) throws Exception {
        try (Graphema graphema = Graphema.start();
                PlatformEvents platform = PlatformEvents.receive(Level.WARN)) { // those of the container
            Tomcat tomcat = new Tomcat();
            tomcat.setBaseDir(Files.createTempDirectory("sailings").toString());
            tomcat.setPort(0);
            Context context = tomcat.addContext("", null);
            addFilter(context);
            Tomcat.addServlet(context, "plan", new Plan());
            context.addServletMappingDecoded("/*", "plan");
            tomcat.start();
            int port = tomcat.getConnector().getLocalPort();
            for (String path : new String[] {"/health", "/sailings?day=friday&key=47", "/broken"}) {
                URI address = URI.create("http://127.0.0.1:" + port + path);
                HttpClient.newHttpClient()
                        .send(HttpRequest.newBuilder(address).build(), HttpResponse.BodyHandlers.discarding());
            }
            tomcat.stop();
        }
    }

    private static void addFilter(Context context) {
        FilterDef filter = new FilterDef();
        filter.setFilterName("requests");
        filter.setAsyncSupported("true");
        filter.setFilter(new ServletRequestFilter(
                log,
                RequestOptions.builder()
                        .exclude("/health")
                        .queryParameters("day")
                        .build()));
        context.addFilterDef(filter);
        FilterMap paths = new FilterMap();
        paths.setFilterName("requests");
        paths.addURLPattern("/*");
        context.addFilterMap(paths);
    }

    private static final class Plan extends HttpServlet {
        private static final long serialVersionUID = 1;

        @Override
        protected void doGet(HttpServletRequest request, HttpServletResponse response) throws IOException {
            if (request.getRequestURI().equals("/broken")) {
                throw new IOException("the plan cannot be read");
            }
            log.info("plan read", f -> f.put("sailings", 4));
            response.getWriter().println("SK-204");
        }
    }
}
