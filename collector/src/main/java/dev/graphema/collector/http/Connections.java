package dev.graphema.collector.http;

import jakarta.servlet.http.HttpServletRequest;
import java.io.Closeable;
import java.io.IOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.SocketAddress;
import java.nio.channels.SocketChannel;
import java.time.Duration;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.Executors;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.TimeUnit;
import org.apache.tomcat.util.net.NioEndpoint;

/**
 * The open connections. The container bounds the time between two bytes, but not that of a whole header: here, a connection that has not
 * sent one within {@link #LONGEST_HEADER} is ended, and the connections of an address are bounded, unless it is of this machine, where
 * a proxy may represent many clients. Thread-safe.
 */
final class Connections implements Closeable {
    private static final Duration LONGEST_HEADER = Duration.ofSeconds(20);
    private static final int MOST_OF_ADDRESS = 500;
    private static final long EVERY_MILLIS = 1_000;

    private final Map<SocketAddress, Open> open = new ConcurrentHashMap<>();
    private final ScheduledExecutorService executor = Executors.newSingleThreadScheduledExecutor(task -> {
        Thread thread = new Thread(task, "graphema-connections");
        thread.setDaemon(true);
        return thread;
    });

    private static final class Open {
        private final SocketChannel channel;
        private final InetAddress address;

        /** Since when a header is awaited; 0 while a request is answered. */
        private volatile long awaitedSince = System.nanoTime() | 1;

        Open(SocketChannel channel, InetAddress address) {
            this.channel = channel;
            this.address = address;
        }
    }

    /** The threads without which nothing is accepted or read. */
    private volatile List<Thread> needed = List.of();

    Connections() {
        executor.scheduleWithFixedDelay(this::endSlow, EVERY_MILLIS, EVERY_MILLIS, TimeUnit.MILLISECONDS);
    }

    /**
     * Watches whether the threads live that accept and read connections. They end if memory is short at the wrong moment, and the server
     * would answer nobody any more.
     *
     * @param restart is called if one has ended
     */
    void onLoss(Runnable restart) {
        executor.scheduleWithFixedDelay(
                () -> {
                    if (!needed.stream().allMatch(Thread::isAlive)) {
                        restart.run();
                    }
                },
                EVERY_MILLIS,
                EVERY_MILLIS,
                TimeUnit.MILLISECONDS);
    }

    private static List<Thread> threads(String begin) {
        Thread[] all = new Thread[2 * Thread.activeCount() + 16];
        int count = Thread.enumerate(all);
        return Arrays.stream(all, 0, count)
                .filter(thread -> thread.getName().equals(begin + "-Poller")
                        || thread.getName().equals(begin + "-Acceptor"))
                .toList();
    }

    /** Returns an endpoint that passes on connections as they are accepted. */
    NioEndpoint endpoint() {
        return new NioEndpoint() {
            @Override
            public void startInternal() throws Exception {
                super.startInternal();
                needed = threads(getName());
            }

            @Override
            protected boolean setSocketOptions(SocketChannel channel) {
                return isAccepted(channel) && super.setSocketOptions(channel);
            }
        };
    }

    private boolean isAccepted(SocketChannel channel) {
        try {
            InetSocketAddress remote = (InetSocketAddress) channel.getRemoteAddress();
            InetAddress address = remote.getAddress();
            boolean isTooMany = !address.isLoopbackAddress()
                    && open.values().stream()
                                    .filter(each -> each.address.equals(address))
                                    .count()
                            >= MOST_OF_ADDRESS;
            if (!isTooMany) {
                open.put(remote, new Open(channel, address));
            }
            return !isTooMany;
        } catch (IOException e) {
            return false; // it has left already
        }
    }

    /** A request has arrived. */
    void begun(HttpServletRequest request) {
        set(request, 0);
    }

    /** A request was answered. */
    void answered(HttpServletRequest request) {
        set(request, System.nanoTime() | 1);
    }

    private void set(HttpServletRequest request, long awaitedSince) {
        Open connection = open.get(new InetSocketAddress(request.getRemoteAddr(), request.getRemotePort()));
        if (connection != null) {
            connection.awaitedSince = awaitedSince;
        }
    }

    private void endSlow() {
        long now = System.nanoTime();
        open.values().removeIf(each -> !each.channel.isOpen());
        for (Open each : open.values()) {
            long since = each.awaitedSince;
            if (since != 0 && now - since > LONGEST_HEADER.toNanos()) {
                try {
                    each.channel.shutdownInput(); // the container sees the end of the stream, and closes the connection
                } catch (IOException e) {
                    // it is closed already
                }
            }
        }
    }

    @Override
    public void close() {
        executor.shutdownNow();
    }
}
