package dev.graphema.collector.page;

import dev.graphema.collector.http.Call;
import dev.graphema.collector.http.Endpoint;
import dev.graphema.collector.http.Problem;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.security.GeneralSecurityException;
import java.security.MessageDigest;
import java.security.SecureRandom;
import java.util.Base64;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import java.util.regex.Pattern;
import java.util.zip.GZIPOutputStream;

/**
 * Answers with the files of the page, compressed once. The policy for content (Content Security Policy Level 3) allows scripts and
 * styles of this server only: no text of an event can become either. Thread-safe.
 */
public final class PageFiles implements Endpoint {
    /** The path of all files but the first. */
    public static final String FOLDER = "/page/";

    private static final Pattern NAME = Pattern.compile("(library/)?[a-z][a-z0-9_-]{0,60}\\.(js|css|svg|LICENSE)");
    private static final String NONCE = "{{nonce}}";
    private static final Map<String, String> TYPES = Map.of(
            "js", "text/javascript; charset=utf-8",
            "css", "text/css; charset=utf-8",
            "svg", "image/svg+xml",
            "LICENSE", "text/plain; charset=utf-8");

    private final Map<String, File> files = new ConcurrentHashMap<>();
    private final SecureRandom random = new SecureRandom();
    private final String index;

    private record File(byte[] zipped, String tag) {}

    public PageFiles() throws IOException {
        this.index = new String(resource("index.html"), StandardCharsets.UTF_8);
    }

    /** Answers with the page itself, which is different each time: its number allows the styles that the editor adds. */
    public void index(Call call) throws IOException {
        byte[] bytes = new byte[16];
        random.nextBytes(bytes);
        String nonce = Base64.getUrlEncoder().withoutPadding().encodeToString(bytes);
        call.setHeader(
                "Content-Security-Policy",
                "default-src 'none'; script-src 'self' 'nonce-" + nonce + "'; style-src 'self' 'nonce-" + nonce
                        + "'; connect-src 'self'; img-src 'self'; base-uri 'none'; form-action 'none';"
                        + " frame-ancestors 'none'; require-trusted-types-for 'script'; trusted-types lit-html");
        call.setHeader("Referrer-Policy", "no-referrer");
        call.setHeader("Cross-Origin-Opener-Policy", "same-origin");
        call.setHeader("Cache-Control", "no-store");
        call.send(200, "text/html; charset=utf-8", index.replace(NONCE, nonce));
    }

    @Override
    public void answer(Call call) throws Problem, IOException {
        String name = call.path().substring(FOLDER.length());
        File file = NAME.matcher(name).matches() ? file(name) : null;
        if (file == null) {
            throw new Problem(404, "There is nothing here", "the page has no such file: open / instead");
        }
        call.setHeader("ETag", file.tag());
        call.setHeader("Cache-Control", "no-cache");
        if (file.tag().equals(call.header("If-None-Match"))) {
            call.send(304, null, new byte[0]);
            return;
        }
        call.setHeader("Content-Encoding", "gzip");
        call.send(200, TYPES.get(name.substring(name.lastIndexOf('.') + 1)), file.zipped());
    }

    /** Returns null if there is none. */
    private File file(String name) throws IOException {
        File known = files.get(name);
        if (known != null) {
            return known;
        }
        byte[] bytes = resource(name);
        if (bytes == null) {
            return null;
        }
        ByteArrayOutputStream zipped = new ByteArrayOutputStream();
        try (GZIPOutputStream out = new GZIPOutputStream(zipped)) {
            out.write(bytes);
        }
        File file = new File(zipped.toByteArray(), '"' + hash(bytes) + '"');
        files.put(name, file);
        return file;
    }

    private static byte[] resource(String name) throws IOException {
        try (InputStream in = PageFiles.class.getResourceAsStream(name)) {
            return in == null ? null : in.readAllBytes();
        }
    }

    private static String hash(byte[] bytes) {
        try {
            byte[] hash = MessageDigest.getInstance("SHA-256").digest(bytes);
            return Base64.getUrlEncoder().withoutPadding().encodeToString(hash);
        } catch (GeneralSecurityException e) {
            throw new IllegalStateException("every JDK has SHA-256", e);
        }
    }
}
