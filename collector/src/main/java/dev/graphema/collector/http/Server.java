package dev.graphema.collector.http;

import java.io.Closeable;
import java.io.IOException;
import java.net.URI;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Map;
import java.util.function.Consumer;
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
import org.apache.coyote.http11.AbstractHttp11Protocol;
import org.apache.coyote.http11.Http11NioProtocol;
import org.apache.tomcat.util.net.SSLHostConfig;
import org.apache.tomcat.util.net.SSLHostConfigCertificate;
import org.apache.tomcat.util.net.SSLHostConfigCertificate.Type;

/** The HTTP server. */
public final class Server implements Closeable {
    private static final String QUICK_TIMEOUT_MILLIS = "10000";
    private static final String CONNECTIONS = "12000";
    private static final String WAITING = "1024";

    /** Held, because the JDK forgets the settings of a logger that nobody holds. */
    private static final Logger QUIET = Logger.getLogger("org.apache");

    private static final int VIRTUAL_THREADS_SINCE = 21;

    private final Tomcat tomcat;
    private final Path folder;
    private final Listening at;
    private final Connections connections;
    private Renewal renewal;

    private Server(Tomcat tomcat, Path folder, Listening at, Connections connections) {
        this.connections = connections;
        this.at = at;
        this.tomcat = tomcat;
        this.folder = folder;
    }

    /**
     * Where a server listens.
     *
     * @param port 0 for any free one
     * @param tls null for none
     */
    public record Listening(String host, int port, TlsFile tls) {}

    /**
     * Starts a server.
     *
     * @param endpoints by method and path, such as {@code POST /lines}
     * @param requests counts them
     * @param problems receives what the operator should know
     * @throws IOException if it cannot listen there
     */
    public static Server start(
            Listening at, Map<String, Endpoint> endpoints, Requests requests, Consumer<String> problems)
            throws IOException {
        if (at.tls() != null) {
            at.tls().read();
        }
        QUIET.setLevel(Level.OFF); // what prevents the start is thrown
        Path folder = Files.createTempDirectory("graphema-collector");
        Tomcat tomcat = new Tomcat();
        tomcat.setBaseDir(folder.toString());
        tomcat.setSilent(true);
        Connections connections = new Connections();
        tomcat.setConnector(connector(at, connections));
        Context context = tomcat.addContext("", folder.toString());
        Wrapper all = Tomcat.addServlet(context, "all", new Routes(endpoints, requests, connections, problems));
        all.setAsyncSupported(true);
        all.addMapping("/*");
        ((StandardHost) tomcat.getHost()).setErrorReportValveClass(QuietReports.class.getName());
        Server server = new Server(tomcat, folder, at, connections);
        try {
            tomcat.start();
        } catch (LifecycleException e) {
            server.close();
            throw new IOException("the server cannot be started", e);
        }
        QUIET.setLevel(Level.SEVERE);
        connections.onLoss(() -> server.restart(problems));
        if (tomcat.getConnector().getState() != LifecycleState.STARTED) {
            server.close();
            throw new IOException("port " + at.port() + " of " + at.host()
                    + " is not free: end the program that listens there, or name another one with --port");
        }
        if (at.tls() != null) {
            AbstractHttp11Protocol<?> protocol =
                    (AbstractHttp11Protocol<?>) tomcat.getConnector().getProtocolHandler();
            server.renewal = new Renewal(at.tls(), protocol::reloadSslHostConfigs, problems);
        }
        return server;
    }

    /** Makes the threads of the connector again; the port stays open. */
    private void restart(Consumer<String> problems) {
        try {
            QUIET.setLevel(Level.OFF); // the end of a thread that has ended already cannot be awaited
            tomcat.getConnector().stop();
            tomcat.getConnector().start();
            problems.accept("memory was short, and all connections were closed: give the collector more, with"
                    + " JDK_JAVA_OPTIONS=-Xmx1g, or ask for less at once");
        } catch (LifecycleException | RuntimeException | OutOfMemoryError e) {
            problems.accept("the server could not be restarted, which is tried again: " + e);
        } finally {
            QUIET.setLevel(Level.SEVERE);
        }
    }

    private static Connector connector(Listening at, Connections connections) {
        Connector connector = new Connector(new Http11NioProtocol(connections.endpoint()));
        connector.setPort(at.port());
        connector.setThrowOnFailure(false);
        connector.setXpoweredBy(false);
        connector.setProperty("address", at.host());
        connector.setProperty("maxKeepAliveRequests", "-1");
        connector.setProperty("acceptCount", WAITING);
        connector.setProperty("maxConnections", CONNECTIONS);
        connector.setProperty("connectionTimeout", QUICK_TIMEOUT_MILLIS);
        connector.setProperty("connectionUploadTimeout", QUICK_TIMEOUT_MILLIS);
        connector.setProperty("disableUploadTimeout", "false");
        if (Runtime.version().feature() >= VIRTUAL_THREADS_SINCE) {
            connector.setProperty("useVirtualThreads", "true");
        }
        if (at.tls() != null) {
            encrypt(connector, at.tls());
        }
        return connector;
    }

    private static void encrypt(Connector connector, TlsFile tls) {
        SSLHostConfig config = new SSLHostConfig();
        config.setProtocols("TLSv1.2+TLSv1.3");
        SSLHostConfigCertificate certificate = new SSLHostConfigCertificate(config, Type.UNDEFINED);
        certificate.setCertificateKeystoreFile(tls.path().toAbsolutePath().toString());
        certificate.setCertificateKeystoreType("PKCS12");
        certificate.setCertificateKeystorePassword(tls.password());
        config.addCertificate(certificate);
        connector.setScheme("https");
        connector.setSecure(true);
        connector.setProperty("SSLEnabled", "true");
        connector.addSslHostConfig(config);
    }

    /** Answers what Tomcat refuses on its own without a report about itself. */
    public static final class QuietReports extends ErrorReportValve {
        public QuietReports() {
            setShowReport(false);
            setShowServerInfo(false);
        }
    }

    Connector connector() {
        return tomcat.getConnector();
    }

    /** Returns the port on which it listens. */
    public int port() {
        return tomcat.getConnector().getLocalPort();
    }

    /** Returns its address. */
    public URI address() {
        String host = at.host().contains(":") ? "[" + at.host() + "]" : at.host();
        return URI.create((at.tls() == null ? "http://" : "https://") + host + ":" + port());
    }

    /** Ends all connections. */
    @Override
    public void close() throws IOException {
        connections.close();
        if (renewal != null) {
            renewal.close();
        }
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
