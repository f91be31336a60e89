package dev.graphema.collector.http;

import java.io.Closeable;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Map;
import java.util.logging.Level;
import java.util.logging.Logger;
import org.apache.catalina.Context;
import org.apache.catalina.LifecycleException;
import org.apache.catalina.LifecycleState;
import org.apache.catalina.Wrapper;
import org.apache.catalina.connector.Connector;
import org.apache.catalina.core.StandardHost;
import org.apache.catalina.startup.Tomcat;
import org.apache.catalina.valves.ErrorReportValve;

/** The HTTP server. */
public final class Server implements Closeable {
    private static final String QUICK_TIMEOUT_MILLIS = "10000";
    private static final String CONNECTIONS = "12000";
    private static final String WAITING = "1024";

    /** Held, because the JDK forgets the settings of a logger that nobody holds. */
    private static final Logger QUIET = Logger.getLogger("org.apache");

    private final Tomcat tomcat;
    private final Path folder;

    private Server(Tomcat tomcat, Path folder) {
        this.tomcat = tomcat;
        this.folder = folder;
    }

    /**
     * Starts a server.
     *
     * @param endpoints by method and path, such as {@code POST /lines}
     * @throws IOException if it cannot listen there
     */
    public static Server start(String host, int port, Map<String, Endpoint> endpoints) throws IOException {
        QUIET.setLevel(Level.SEVERE);
        Path folder = Files.createTempDirectory("graphema-collector");
        Tomcat tomcat = new Tomcat();
        tomcat.setBaseDir(folder.toString());
        tomcat.setSilent(true);
        tomcat.setConnector(connector(host, port));
        Context context = tomcat.addContext("", folder.toString());
        Wrapper all = Tomcat.addServlet(context, "all", new Routes(endpoints));
        all.setAsyncSupported(true);
        all.addMapping("/*");
        ((StandardHost) tomcat.getHost()).setErrorReportValveClass(QuietReports.class.getName());
        Server server = new Server(tomcat, folder);
        try {
            tomcat.start();
        } catch (LifecycleException e) {
            server.close();
            throw new IOException("the server cannot be started", e);
        }
        if (tomcat.getConnector().getState() != LifecycleState.STARTED) {
            server.close();
            throw new IOException("port " + port + " of " + host
                    + " is not free: end the program that listens there, or name another one with --port");
        }
        return server;
    }

    private static Connector connector(String host, int port) {
        Connector connector = new Connector();
        connector.setPort(port);
        connector.setThrowOnFailure(false);
        connector.setXpoweredBy(false);
        connector.setProperty("address", host);
        connector.setProperty("maxKeepAliveRequests", "-1");
        connector.setProperty("acceptCount", WAITING);
        connector.setProperty("maxConnections", CONNECTIONS);
        connector.setProperty("connectionTimeout", QUICK_TIMEOUT_MILLIS);
        connector.setProperty("connectionUploadTimeout", QUICK_TIMEOUT_MILLIS);
        connector.setProperty("disableUploadTimeout", "false");
        return connector;
    }

    /** Answers what Tomcat refuses on its own without a report about itself. */
    public static final class QuietReports extends ErrorReportValve {
        public QuietReports() {
            setShowReport(false);
            setShowServerInfo(false);
        }
    }

    /** Returns the port on which it listens. */
    public int port() {
        return tomcat.getConnector().getLocalPort();
    }

    /** Ends all connections. */
    @Override
    public void close() throws IOException {
        try {
            tomcat.stop();
            tomcat.destroy();
        } catch (LifecycleException e) {
            throw new IOException("the server cannot be stopped", e);
        } finally {
            FolderRemoval.remove(folder);
        }
    }
}
