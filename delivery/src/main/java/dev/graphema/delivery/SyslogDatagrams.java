package dev.graphema.delivery;

import dev.graphema.batch.EventBatch;
import dev.graphema.batch.Transmitter;
import dev.graphema.format.Format;
import dev.graphema.text.Utf8Buffer;
import java.io.IOException;
import java.net.InetSocketAddress;
import java.net.UnknownHostException;
import java.nio.ByteBuffer;
import java.nio.channels.DatagramChannel;

/** Sends each message in its own datagram (RFC 5426). For one thread at a time. */
final class SyslogDatagrams implements Transmitter {
    private final String host;
    private final int port;
    private final Format messages;
    private final int most;
    private final Utf8Buffer buffer = new Utf8Buffer(2048);
    private DatagramChannel channel;

    SyslogDatagrams(String host, int port, Format messages, int most) {
        this.host = host;
        this.port = port;
        this.messages = messages;
        this.most = most;
    }

    @Override
    public void send(EventBatch events) throws IOException {
        if (channel == null) {
            InetSocketAddress address = new InetSocketAddress(host, port);
            if (address.isUnresolved()) {
                throw new UnknownHostException("the host " + host + " is not known");
            }
            // Connected, so that the host of the receiver can report that nobody listens.
            channel = DatagramChannel.open().connect(address);
        }
        try {
            for (int i = 0; i < events.size(); i++) {
                buffer.clear();
                messages.write(events.get(i), buffer);
                channel.write(cut(buffer));
            }
        } catch (IOException e) {
            close();
            throw e;
        }
    }

    /** Returns the message without its line end, not cut within a character. */
    private ByteBuffer cut(Utf8Buffer message) {
        ByteBuffer bytes = message.view();
        int length = bytes.remaining() - 1;
        if (length > most) {
            length = most;
            while ((bytes.get(bytes.position() + length) & 0xC0) == 0x80) {
                length--;
            }
        }
        return bytes.limit(bytes.position() + length);
    }

    @Override
    public void close() throws IOException {
        if (channel != null) {
            channel.close();
            channel = null;
        }
    }

    @Override
    public String toString() {
        return "udp " + host + ":" + port;
    }
}
