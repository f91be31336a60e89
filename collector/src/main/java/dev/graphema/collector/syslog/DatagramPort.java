package dev.graphema.collector.syslog;

import dev.graphema.collector.input.SyslogPort;
import java.io.IOException;
import java.net.DatagramPacket;
import java.net.DatagramSocket;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ArrayBlockingQueue;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicLong;

/** Receives a message per datagram (RFC 5426). One thread receives and another one stores, so that few datagrams are lost by the system. */
final class DatagramPort implements SyslogReceiver.OpenPort {
    private static final int LONGEST = 65_535;
    private static final int BUFFER = 4 << 20;
    private static final int MOST_WAITING = 20_000;
    private static final int MOST_AT_ONCE = 2_000;
    private static final int MOST_SENDERS = 1_000;
    private static final long END_MILLIS = 2_000;

    private final SyslogPort port;
    private final SyslogReceiver.Common common;
    private final DatagramSocket socket;
    private final BlockingQueue<Datagram> waiting = new ArrayBlockingQueue<>(MOST_WAITING);
    private final AtomicLong lost = new AtomicLong();
    private final Thread receiving = new Thread(this::receive, "graphema-syslog-udp");
    private final Thread storing = new Thread(this::store, "graphema-syslog-udp-store");
    private volatile boolean isClosed;

    private record Datagram(InetAddress sender, byte[] bytes) {}

    DatagramPort(SyslogPort port, SyslogReceiver.Common common) throws IOException {
        this.port = port;
        this.common = common;
        try {
            socket = new DatagramSocket(new InetSocketAddress(port.host(), port.port()));
        } catch (IOException e) {
            throw SyslogReceiver.notFree(port, e);
        }
        socket.setReceiveBufferSize(BUFFER);
        receiving.setDaemon(true);
        storing.setDaemon(true);
        receiving.start();
        storing.start();
    }

    @Override
    public int port() {
        return socket.getLocalPort();
    }

    private void receive() {
        DatagramPacket packet = new DatagramPacket(new byte[LONGEST], LONGEST);
        while (!isClosed) {
            try {
                packet.setLength(LONGEST);
                socket.receive(packet);
                byte[] bytes = new byte[packet.getLength()];
                System.arraycopy(packet.getData(), packet.getOffset(), bytes, 0, bytes.length);
                if (!waiting.offer(new Datagram(packet.getAddress(), bytes))) {
                    lost.incrementAndGet();
                }
            } catch (IOException e) {
                if (!isClosed) {
                    common.problems().accept("a datagram cannot be received: " + e.getMessage());
                }
            }
        }
    }

    private void store() {
        Map<InetAddress, Messages> senders = new LinkedHashMap<>();
        List<Datagram> batch = new ArrayList<>();
        try {
            while (!isClosed || !waiting.isEmpty()) {
                Datagram first = waiting.poll(100, TimeUnit.MILLISECONDS);
                if (first == null) {
                    continue;
                }
                batch.add(first);
                waiting.drainTo(batch, MOST_AT_ONCE);
                for (Datagram each : batch) {
                    if (senders.size() >= MOST_SENDERS && !senders.containsKey(each.sender())) {
                        storeAll(senders);
                        senders.clear();
                    }
                    senders.computeIfAbsent(each.sender(), this::messages).add(each.bytes(), each.bytes().length);
                }
                batch.clear();
                storeAll(senders);
                reportLost();
            }
        } catch (InterruptedException e) {
            common.problems()
                    .accept(waiting.size()
                            + " datagrams are lost, because the disk did not accept them before the end");
        }
    }

    private Messages messages(InetAddress sender) {
        return new Messages(common.intake(), port, sender.getHostAddress(), common.environment());
    }

    private static void storeAll(Map<InetAddress, Messages> senders) throws InterruptedException {
        for (Messages each : senders.values()) {
            each.store();
        }
    }

    private void reportLost() {
        long count = lost.getAndSet(0);
        if (count > 0) {
            common.problems()
                    .accept(count + " datagrams were lost, because more arrived than could be stored: use TCP");
        }
    }

    @Override
    public void close() {
        isClosed = true;
        socket.close();
        try {
            storing.join(END_MILLIS);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
        storing.interrupt();
    }
}
