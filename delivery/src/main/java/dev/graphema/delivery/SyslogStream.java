package dev.graphema.delivery;

import dev.graphema.background.BackgroundThreads;
import dev.graphema.batch.EventBatch;
import dev.graphema.batch.Transmitter;
import dev.graphema.format.Format;
import dev.graphema.text.Utf8Buffer;
import java.io.IOException;
import java.net.InetSocketAddress;
import java.net.Socket;
import java.net.SocketTimeoutException;
import java.net.UnknownHostException;
import java.time.Duration;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.concurrent.Executors;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.ScheduledFuture;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicBoolean;
import javax.net.ssl.SSLContext;
import javax.net.ssl.SSLParameters;
import javax.net.ssl.SSLSocket;

/**
 * Sends messages over one connection, each preceded by its length in octets (RFC 6587, RFC 5425). The connection is
 * opened when needed, and again after it broke. For one thread at a time.
 */
final class SyslogStream implements Transmitter {
    private final String host;
    private final int port;
    private final Format messages;
    private final Duration timeout;
    private final SSLContext tls;
    private final Utf8Buffer message = new Utf8Buffer(1024);
    private final Utf8Buffer frames = new Utf8Buffer(64 * 1024);
    private final ScheduledExecutorService watch =
            Executors.newSingleThreadScheduledExecutor(task -> BackgroundThreads.daemon("graphema-syslog-watch", task));

    private Socket socket;

    /**
     * How long a break may remain undetected while further batches are written, and the most events that they may
     * contain.
     */
    private static final long UNSEEN_NANOS = 1_000_000_000L;

    private static final int MOST_UNSURE = 1_000;

    /** The last batches, oldest first: if the connection breaks, it is unknown whether they arrived. */
    private final Deque<Sent> unsure = new ArrayDeque<>();

    /**
     * A batch that was written.
     *
     * @param frames the bytes of its events
     * @param nanos when it was written, as by {@link System#nanoTime}
     */
    private record Sent(byte[] frames, int events, long nanos) {}

    /** @param tls null for TCP without TLS */
    SyslogStream(String host, int port, Format messages, Duration timeout, SSLContext tls) {
        this.host = host;
        this.port = port;
        this.messages = messages;
        this.timeout = timeout;
        this.tls = tls;
    }

    @Override
    public void send(EventBatch events) throws IOException {
        if (socket != null && isBroken()) {
            drop();
        }
        boolean isNew = socket == null;
        int count = events.size();
        frames.clear();
        if (isNew) {
            for (Sent sent : unsure) {
                frames.bytes(sent.frames(), 0, sent.frames().length);
                count += sent.events();
            }
        }
        add(events); // before connecting, so that a format that fails changes nothing
        if (isNew) {
            socket = connected();
        }
        try {
            write();
            if (isNew) {
                unsure.clear(); // they were written again
            }
            remember(count);
        } catch (IOException e) {
            drop();
            throw e;
        }
    }

    /** Keeps what was written, and earlier batches that are neither too old nor too many. */
    private void remember(int events) {
        long now = System.nanoTime();
        unsure.addLast(new Sent(frames.copy(0), events, now));
        int count = unsure.stream().mapToInt(Sent::events).sum();
        while (unsure.size() > 1
                && (count > MOST_UNSURE || now - unsure.getFirst().nanos() > UNSEEN_NANOS)) {
            count -= unsure.removeFirst().events();
        }
    }

    private void add(EventBatch events) {
        for (int i = 0; i < events.size(); i++) {
            message.clear();
            messages.write(events.get(i), message);
            int length = message.length() - 1; // the line end is the length's business here
            frames.number(length).ascii(' ');
            frames.bytes(message.view().array(), 0, length);
        }
    }

    private void write() throws IOException {
        // A socket's own time-out is for reading: a receiver that does not read would hold the thread for ever.
        AtomicBoolean tooLate = new AtomicBoolean();
        Socket watched = socket;
        ScheduledFuture<?> alarm = watch.schedule(
                () -> {
                    tooLate.set(true);
                    watched.close();
                    return null;
                },
                timeout.toMillis(),
                TimeUnit.MILLISECONDS);
        try {
            frames.writeTo(socket.getOutputStream());
            socket.getOutputStream().flush();
        } catch (IOException e) {
            throw tooLate.get() ? new IOException("the receiver did not read within " + timeout.toMillis() + " ms") : e;
        } finally {
            alarm.cancel(false);
        }
    }

    /** A receiver sends nothing: reading can only return the end of the stream. */
    private boolean isBroken() {
        try {
            socket.setSoTimeout(1);
            return socket.getInputStream().read() < 0;
        } catch (SocketTimeoutException e) {
            return false;
        } catch (IOException e) {
            return true;
        }
    }

    private Socket connected() throws IOException {
        InetSocketAddress address = new InetSocketAddress(host, port);
        if (address.isUnresolved()) {
            throw new UnknownHostException("the host " + host + " is not known");
        }
        Socket plain = new Socket();
        try {
            plain.connect(address, (int) timeout.toMillis());
            return tls == null ? plain : secured(plain);
        } catch (IOException e) {
            plain.close();
            throw e;
        }
    }

    private Socket secured(Socket plain) throws IOException {
        plain.setSoTimeout((int) timeout.toMillis());
        SSLSocket secured = (SSLSocket) tls.getSocketFactory().createSocket(plain, host, port, true);
        SSLParameters parameters = secured.getSSLParameters();
        parameters.setEndpointIdentificationAlgorithm("HTTPS"); // the certificate must be for this host
        secured.setSSLParameters(parameters);
        secured.startHandshake();
        return secured;
    }

    private void drop() throws IOException {
        Socket broken = socket;
        socket = null;
        broken.close();
    }

    @Override
    public void close() throws IOException {
        watch.shutdownNow();
        if (socket != null) {
            socket.close();
        }
    }

    @Override
    public String toString() {
        return (tls == null ? "tcp " : "tls ") + host + ":" + port;
    }
}
