package dev.graphema.collector.access;

import dev.graphema.event.Attribute;
import java.io.IOException;
import java.nio.channels.FileChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.nio.file.attribute.BasicFileAttributes;
import java.nio.file.attribute.PosixFilePermissions;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.security.SecureRandom;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Base64;
import java.util.HexFormat;
import java.util.List;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/**
 * The tokens of a collector, in the file {@code tokens.jsonl} of its store. The command changes it while a collector runs, which
 * notices that at the next request. Thread-safe.
 */
public final class Tokens {
    static final String FILE = "tokens.jsonl";

    private static final int SHORTEST_PASSWORD = 10;
    private static final int RANDOM_BYTES = 32;
    private static final String PREFIX = "graphema_";
    private static final Pattern NAME = Pattern.compile("[A-Za-z0-9][A-Za-z0-9._@-]{0,99}");

    private final Path file;
    private List<Token> known = List.of();
    private String version = "";

    /** @param store the folder of the store */
    public Tokens(Path store) {
        this.file = store.resolve(FILE);
    }

    /** Returns whether a token was ever created: from then on, nobody is let in without one, also if all are revoked. */
    public boolean areNeeded() {
        return Files.exists(file);
    }

    /**
     * Returns all tokens.
     *
     * @throws IOException if the file cannot be read, or is damaged
     */
    public synchronized List<Token> all() throws IOException {
        if (!Files.exists(file)) {
            return List.of();
        }
        BasicFileAttributes now = Files.readAttributes(file, BasicFileAttributes.class);
        String found = now.lastModifiedTime() + " " + now.size() + " " + now.fileKey();
        if (!found.equals(version)) {
            known = TokenJson.read(file);
            version = found;
        }
        return known;
    }

    /**
     * Returns the valid token with this text; null if there is none. How long that takes does not depend on how much of it is
     * right.
     */
    public Token find(String text, Instant now) throws IOException {
        byte[] hash = hash(text).getBytes(StandardCharsets.US_ASCII);
        Token found = null;
        for (Token each : all()) {
            boolean isSame = MessageDigest.isEqual(hash, each.hash().getBytes(StandardCharsets.US_ASCII));
            found = isSame && !each.hasExpired(now) ? each : found;
        }
        return found;
    }

    /**
     * Creates a token.
     *
     * @param token what its owner may do
     * @return its text, which is kept nowhere
     * @throws IllegalArgumentException if the name is taken or invalid
     */
    public String create(Token token) throws IOException {
        checkName(token.name());
        byte[] random = new byte[RANDOM_BYTES];
        new SecureRandom().nextBytes(random);
        String text = PREFIX + Base64.getUrlEncoder().withoutPadding().encodeToString(random);
        add(token.withHash(hash(text), Instant.now()));
        return text;
    }

    private static void checkName(String name) {
        if (!NAME.matcher(name).matches()) {
            throw new IllegalArgumentException(
                    "\"" + name + "\" is no name of a token: expected up to 100 letters, digits, dots, hyphens and @");
        }
    }

    private void add(Token token) throws IOException {
        Stream.concat(token.hidden().stream(), token.pseudonyms().stream()).forEach(name -> {
            if (name.isBlank() || Attribute.of(name) != null) {
                throw new IllegalArgumentException("\"" + name
                        + "\" is not the name of a field, and cannot be hidden: expected one such as passenger.mail");
            }
        });
        change(tokens -> {
            if (tokens.stream().anyMatch(each -> each.name().equals(token.name()))) {
                throw new IllegalArgumentException(
                        "there is a token \"" + token.name() + "\" already: revoke it first");
            }
            tokens.add(token);
        });
    }

    /**
     * Creates a user, who signs in with the name and a password instead of a token.
     *
     * @param user what the user may do
     * @throws IllegalArgumentException if the name is taken or invalid, or the password too short
     */
    public void createUser(Token user, String password) throws IOException {
        checkName(user.name());
        if (password.length() < SHORTEST_PASSWORD) {
            throw new IllegalArgumentException("the password has " + password.length() + " characters: expected "
                    + SHORTEST_PASSWORD + " or more");
        }
        String hash = Passwords.hash(password);
        add(user.withHash(hash, Instant.now()));
    }

    /** Returns the user with this name and password; null if there is none. It takes as long for a name that does not exist. */
    public Token findUser(String name, String password, Instant now) throws IOException {
        Token user = named(name, now);
        boolean isUser = user != null && user.isUser();
        boolean isRight = Passwords.isRight(password, isUser ? user.hash() : Nobody.HASH);
        return isUser && isRight ? user : null;
    }

    /** Returns the valid token, or user, with a name; null if there is none. */
    public Token named(String name, Instant now) throws IOException {
        return all().stream()
                .filter(each -> each.name().equals(name) && !each.hasExpired(now))
                .findAny()
                .orElse(null);
    }

    /** Removes a token; false if there is none of this name. */
    public boolean revoke(String name) throws IOException {
        boolean[] isFound = new boolean[1];
        change(tokens -> isFound[0] = tokens.removeIf(each -> each.name().equals(name)));
        return isFound[0];
    }

    /** Computed when it is first needed, because that takes a while. */
    private static final class Nobody {
        private static final String HASH = Passwords.ofNobody();
    }

    private interface Change {
        void apply(List<Token> tokens);
    }

    /** Replaces the file at once; two processes do not change it at the same time. */
    private synchronized void change(Change change) throws IOException {
        Files.createDirectories(file.getParent());
        try (FileChannel lock = FileChannel.open(
                file.resolveSibling(FILE + ".lock"), StandardOpenOption.CREATE, StandardOpenOption.WRITE)) {
            lock.lock();
            List<Token> tokens = new ArrayList<>(all());
            change.apply(tokens);
            Path next = file.resolveSibling(FILE + ".new");
            Files.deleteIfExists(next);
            if (file.getFileSystem().supportedFileAttributeViews().contains("posix")) {
                Files.createFile(
                        next, PosixFilePermissions.asFileAttribute(PosixFilePermissions.fromString("rw-------")));
            }
            String text = tokens.stream().map(TokenJson::of).collect(Collectors.joining("\n", "", "\n"));
            Files.writeString(next, tokens.isEmpty() ? "" : text);
            try (FileChannel written = FileChannel.open(next, StandardOpenOption.WRITE)) {
                written.force(true);
            }
            Files.move(next, file, StandardCopyOption.ATOMIC_MOVE, StandardCopyOption.REPLACE_EXISTING);
        }
    }

    private static String hash(String text) {
        try {
            return HexFormat.of()
                    .formatHex(MessageDigest.getInstance("SHA-256").digest(text.getBytes(StandardCharsets.UTF_8)));
        } catch (NoSuchAlgorithmException e) {
            throw new IllegalStateException("every JDK has SHA-256", e);
        }
    }
}
