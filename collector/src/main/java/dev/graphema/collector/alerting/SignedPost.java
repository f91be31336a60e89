package dev.graphema.collector.alerting;

import dev.graphema.collector.alert.AlertReceiver;
import java.io.IOException;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.security.GeneralSecurityException;
import java.security.MessageDigest;
import java.time.Duration;
import java.time.Instant;
import java.util.Base64;
import javax.crypto.Mac;
import javax.crypto.spec.SecretKeySpec;

/**
 * Delivers notices by POST, signed with the algorithm {@code hmac-sha256} of HTTP Message Signatures (RFC 9421) over method, address,
 * digest (RFC 9530) and id. Thread-safe.
 */
final class SignedPost {
    private static final Duration TIMEOUT = Duration.ofSeconds(10);
    private static final int ERRORS = 300;

    private final HttpClient http = HttpClient.newBuilder()
            .connectTimeout(TIMEOUT)
            .followRedirects(HttpClient.Redirect.NEVER)
            .build();

    /** @throws IOException if the receiver does not accept it */
    void send(Notice notice, AlertReceiver.Web receiver, Instant now) throws IOException, InterruptedException {
        String digest = "sha-256=:" + base64(sha256(notice.body())) + ":";
        String id = "\"" + notice.id() + "\"";
        HttpRequest.Builder request = HttpRequest.newBuilder(receiver.url())
                .timeout(TIMEOUT)
                .header("Content-Type", "application/json")
                .header("Content-Digest", digest)
                .header("Idempotency-Key", id)
                .POST(HttpRequest.BodyPublishers.ofString(notice.body()));
        if (receiver.secret() != null) {
            String parameters = "(\"@method\" \"@target-uri\" \"content-digest\" \"idempotency-key\");created="
                    + now.getEpochSecond() + ";keyid=\"" + receiver.name() + "\";alg=\"hmac-sha256\"";
            String base = "\"@method\": POST\n\"@target-uri\": " + receiver.url() + "\n\"content-digest\": " + digest
                    + "\n\"idempotency-key\": " + id + "\n\"@signature-params\": " + parameters;
            request.header("Signature-Input", "alert=" + parameters)
                    .header("Signature", "alert=:" + base64(hmac(base, receiver.secret())) + ":");
        }
        int status = http.send(request.build(), HttpResponse.BodyHandlers.discarding())
                .statusCode();
        if (status >= ERRORS) {
            throw new IOException("the receiver answers with status " + status);
        }
    }

    private static String base64(byte[] bytes) {
        return Base64.getEncoder().encodeToString(bytes);
    }

    private static byte[] sha256(String text) {
        try {
            return MessageDigest.getInstance("SHA-256").digest(text.getBytes(StandardCharsets.UTF_8));
        } catch (GeneralSecurityException e) {
            throw new IllegalStateException("every JDK has SHA-256", e);
        }
    }

    private static byte[] hmac(String text, String secret) {
        try {
            Mac mac = Mac.getInstance("HmacSHA256");
            mac.init(new SecretKeySpec(secret.getBytes(StandardCharsets.UTF_8), "HmacSHA256"));
            return mac.doFinal(text.getBytes(StandardCharsets.UTF_8));
        } catch (GeneralSecurityException e) {
            throw new IllegalStateException("every JDK has HMAC-SHA-256", e);
        }
    }
}
