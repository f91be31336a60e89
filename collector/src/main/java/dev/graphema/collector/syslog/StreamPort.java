package dev.graphema.collector.syslog;

import dev.graphema.collector.http.TlsFile;
import dev.graphema.collector.input.SyslogPort;
import java.io.IOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.nio.file.Files;
import java.nio.file.attribute.FileTime;
import java.security.GeneralSecurityException;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import javax.net.ssl.KeyManagerFactory;
import javax.net.ssl.SSLContext;
import javax.net.ssl.SSLSocket;

/** Receives streams of messages, each with a thread of its own. A sender waits while its messages are stored. */
final class StreamPort implements SyslogReceiver.OpenPort {
    private static final int MOST_CONNECTIONS = 512;
    private static final int MOST_OF_ADDRESS = 64;
    private static final int WAITING = 128;
    private static final int HANDSHAKE_MILLIS = 10_000;
    private static final long END_MILLIS = 2_000;

    private final SyslogPort port;
    private final SyslogReceiver.Common common;
    private final ServerSocket server;
    private final Set<Connection> connections = ConcurrentHashMap.newKeySet();
    private final Thread accepting = new Thread(this::accept, "graphema-syslog");
    private SSLContext certificates;
    private FileTime version;
    private volatile boolean isClosed;

    StreamPort(SyslogPort port, SyslogReceiver.Common common) throws IOException {
        this.port = port;
        this.common = common;
        if (isEncrypted()) {
            if (common.tls() == null) {
                throw new IOException("a syslog port over TLS needs a key and certificates: give them with tls");
            }
            certificates = certificates(common.tls());
        }
        server = new ServerSocket();
        try {
            server.setReuseAddress(true);
            server.bind(new InetSocketAddress(port.host(), port.port()), WAITING);
        } catch (IOException e) {
            server.close();
            throw SyslogReceiver.notFree(port, e);
        }
        accepting.setDaemon(true);
        accepting.start();
    }

    private boolean isEncrypted() {
        return port.over() == SyslogPort.Transport.TLS;
    }

    @Override
    public int port() {
        return server.getLocalPort();
    }

    private SSLContext certificates(TlsFile file) throws IOException {
        version = Files.getLastModifiedTime(file.path());
        try {
            KeyManagerFactory keys = KeyManagerFactory.getInstance(KeyManagerFactory.getDefaultAlgorithm());
            keys.init(file.read(), file.password().toCharArray());
            SSLContext context = SSLContext.getInstance("TLS");
            context.init(keys.getKeyManagers(), null, null);
            return context;
        } catch (GeneralSecurityException e) {
            throw new IOException(file + " cannot be used: " + e.getMessage(), e);
        }
    }

    /** Uses a file that was renewed; the old certificates remain in use if it is damaged. */
    private void renew() {
        try {
            if (!Files.getLastModifiedTime(common.tls().path()).equals(version)) {
                certificates = certificates(common.tls());
            }
        } catch (IOException e) {
            common.problems().accept("the certificates of the syslog port are not renewed: " + e.getMessage());
        }
    }

    private void accept() {
        while (!isClosed) {
            try {
                Socket socket = server.accept();
                if (isTooMany(socket.getInetAddress())) {
                    socket.close();
                    common.problems()
                            .accept("a syslog connection of "
                                    + socket.getInetAddress().getHostAddress()
                                    + " is refused: at most " + MOST_CONNECTIONS + " are open at once, and "
                                    + MOST_OF_ADDRESS
                                    + " of one address");
                    continue;
                }
                if (isEncrypted()) {
                    renew();
                }
                Connection connection = new Connection(socket, certificates);
                connections.add(connection);
                connection.thread.start();
            } catch (IOException e) {
                if (!isClosed) {
                    common.problems().accept("a syslog connection cannot be accepted: " + e.getMessage());
                }
            }
        }
    }

    private boolean isTooMany(InetAddress address) {
        return connections.size() >= MOST_CONNECTIONS
                || connections.stream()
                                .filter(each -> each.address.equals(address))
                                .count()
                        >= MOST_OF_ADDRESS;
    }

    @Override
    public void close() throws IOException {
        isClosed = true;
        server.close();
        for (Connection each : connections) {
            each.end();
        }
        for (Connection each : connections) {
            each.await();
        }
    }

    private final class Connection {
        private final Socket socket;
        private final InetAddress address;
        private final SSLContext certificates;
        private final Thread thread = new Thread(this::run, "graphema-syslog-connection");

        Connection(Socket socket, SSLContext certificates) {
            this.socket = socket;
            this.address = socket.getInetAddress();
            this.certificates = certificates;
            thread.setDaemon(true);
        }

        private void run() {
            try (Socket open = opened()) {
                Frames frames = new Frames(open.getInputStream());
                Messages messages = new Messages(common.intake(), port, address.getHostAddress(), common.environment());
                boolean goesOn = true;
                while (goesOn) {
                    try {
                        goesOn = frames.fill();
                    } catch (IOException e) {
                        return; // the sender has left; what it sent before is stored
                    }
                    byte[] message;
                    while ((message = frames.next()) != null) {
                        messages.add(message, message.length);
                    }
                    messages.store();
                    long tooLong = frames.takeTooLong();
                    if (tooLong > 0) {
                        common.problems()
                                .accept(tooLong + " messages of " + address.getHostAddress()
                                        + " are cut off or left out: they have more than " + Frames.MOST_BYTES
                                        + " bytes");
                    }
                }
            } catch (IOException e) {
                common.problems()
                        .accept("a syslog connection of " + address.getHostAddress() + " failed: " + e.getMessage());
            } catch (InterruptedException e) {
                common.problems()
                        .accept("messages of " + address.getHostAddress()
                                + " are lost, because the disk did not accept them before the end");
            } finally {
                connections.remove(this);
            }
        }

        private Socket opened() throws IOException {
            if (certificates == null) {
                return socket;
            }
            socket.setSoTimeout(HANDSHAKE_MILLIS);
            SSLSocket encrypted = (SSLSocket) certificates
                    .getSocketFactory()
                    .createSocket(socket, address.getHostAddress(), socket.getPort(), true);
            encrypted.setUseClientMode(false);
            encrypted.startHandshake();
            socket.setSoTimeout(0);
            return encrypted;
        }

        void end() throws IOException {
            socket.close();
        }

        void await() {
            try {
                thread.join(END_MILLIS);
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
            }
            thread.interrupt();
        }
    }
}
