package skerry.bank;

import com.fasterxml.jackson.databind.node.ObjectNode;
import com.sun.net.httpserver.HttpExchange;
import com.sun.net.httpserver.HttpServer;
import java.io.IOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import skerry.service.Harbour;
import skerry.service.Json;

/**
 * {@code POST /charges} with a card number and an amount: 200 takes the money, 402 refuses the card. The bank is another
 * company: it writes no events for Skerry Line.
 */
public final class Bank implements AutoCloseable {
    /** A published test number that the bank rejects. */
    public static final String REFUSED_CARD = "4000000000000002";

    private final HttpServer server;
    private final ExecutorService threads = Executors.newFixedThreadPool(4);

    private Bank(HttpServer server) {
        this.server = server;
    }

    /** Starts the bank on a free port. */
    public static Bank open(Harbour harbour) throws IOException {
        Bank bank = new Bank(HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), 0), 0));
        bank.server.setExecutor(bank.threads);
        bank.server.createContext("/charges", Bank::charge);
        bank.server.start();
        harbour.announce("bank", bank.server.getAddress().getPort());
        return bank;
    }

    private static void charge(HttpExchange exchange) throws IOException {
        try (exchange) {
            ObjectNode request = Json.read(exchange);
            if (request.path("card").asText().equals(REFUSED_CARD)) {
                Json.refuse(exchange, 402, "card refused");
            } else {
                Json.answer(exchange, 200, Json.object().put("taken", true));
            }
        }
    }

    @Override
    public void close() {
        server.stop(0);
        threads.shutdownNow();
    }
}
