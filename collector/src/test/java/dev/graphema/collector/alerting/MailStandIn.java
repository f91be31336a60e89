package dev.graphema.collector.alerting;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.io.OutputStream;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.nio.charset.StandardCharsets;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.LinkedBlockingQueue;

/** A small mail server (RFC 5321) that accepts everything and keeps it. */
final class MailStandIn implements AutoCloseable {
    private final ServerSocket server = new ServerSocket(0, 10, InetAddress.getLoopbackAddress());
    private final BlockingQueue<String> mails = new LinkedBlockingQueue<>();

    MailStandIn() throws IOException {
        Thread thread = new Thread(this::run, "mail");
        thread.setDaemon(true);
        thread.start();
    }

    String address() {
        return "127.0.0.1:" + server.getLocalPort();
    }

    String take() throws InterruptedException {
        return mails.take();
    }

    private void run() {
        while (!server.isClosed()) {
            try (Socket socket = server.accept()) {
                talk(socket);
            } catch (IOException e) {
                // the next client, or the end
            }
        }
    }

    private void talk(Socket socket) throws IOException {
        BufferedReader in = new BufferedReader(new InputStreamReader(socket.getInputStream(), StandardCharsets.UTF_8));
        OutputStream out = socket.getOutputStream();
        send(out, "220 stand-in");
        String line;
        while ((line = in.readLine()) != null) {
            if (line.equals("DATA")) {
                send(out, "354 go on");
                StringBuilder mail = new StringBuilder();
                while (!(line = in.readLine()).equals(".")) {
                    mail.append(line).append('\n');
                }
                mails.add(mail.toString());
            } else if (line.equals("QUIT")) {
                send(out, "221 bye");
                return;
            }
            send(out, "250 ok");
        }
    }

    private static void send(OutputStream out, String line) throws IOException {
        out.write((line + "\r\n").getBytes(StandardCharsets.US_ASCII));
        out.flush();
    }

    @Override
    public void close() throws IOException {
        server.close();
    }
}
