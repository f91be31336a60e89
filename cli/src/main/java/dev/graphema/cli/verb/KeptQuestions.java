package dev.graphema.cli.verb;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonToken;
import dev.graphema.cli.output.Shell;
import dev.graphema.format.Json;
import dev.graphema.redaction.Detectors;
import dev.graphema.redaction.Redactor;
import java.io.File;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * Stored and recent questions: commands with their arguments, in two files of JSON lines that only their owner can
 * read, in the folder {@code graphema} of {@code XDG_CONFIG_HOME} and {@code XDG_STATE_HOME} (XDG base directory
 * specification) or of their defaults. Secrets in recent questions are redacted; with {@code GRAPHEMA_RECENT=off} in
 * the environment, none are stored.
 */
public final class KeptQuestions {
    private static final int MOST_RECENT = 50;

    /** The environment variable that disables recent questions with {@code off}. */
    static final String SWITCH = "GRAPHEMA_RECENT";

    private final Path kept;
    private final Path recent;

    KeptQuestions(Path kept, Path recent) {
        this.kept = kept;
        this.recent = recent;
    }

    /** Returns the questions of the user of the process. */
    public static KeptQuestions ofUser() {
        return new KeptQuestions(
                folder("XDG_CONFIG_HOME", ".config").resolve("kept.jsonl"),
                folder("XDG_STATE_HOME", ".local/state").resolve("recent.jsonl"));
    }

    /** Returns a folder of the user. */
    static Path folder(String variable, String usual) {
        String given = System.getProperty("graphema." + variable, System.getenv(variable));
        Path base = given == null || given.isBlank() ? Path.of(System.getProperty("user.home"), usual) : Path.of(given);
        return base.resolve("graphema");
    }

    /**
     * A question.
     *
     * @param name null for a recent one
     */
    record Question(String name, List<String> arguments) {
        String text() {
            return String.join(" ", arguments.stream().map(Shell::quoted).toList());
        }
    }

    /** Returns the stored questions by name. */
    Map<String, Question> kept() throws IOException {
        Map<String, Question> byName = new LinkedHashMap<>();
        read(kept).forEach(question -> byName.put(question.name(), question));
        return byName;
    }

    /** Returns the recent questions, the last one first. */
    List<Question> recent() throws IOException {
        List<Question> all = read(recent);
        Collections.reverse(all);
        return all;
    }

    void keep(Question question) throws IOException {
        Map<String, Question> all = kept();
        all.put(question.name(), question);
        writeAll(all.values());
    }

    /**
     * Removes a question.
     *
     * @return whether there was one with this name
     */
    boolean drop(String name) throws IOException {
        Map<String, Question> all = kept();
        boolean was = all.remove(name) != null;
        if (was) {
            writeAll(all.values());
        }
        return was;
    }

    /** Appends recent questions without reading the others. */
    public void asked(List<String> arguments) throws IOException {
        if ("off".equals(System.getenv(SWITCH))) {
            return;
        }
        List<String> all = new ArrayList<>(Files.exists(recent) ? Files.readAllLines(recent) : List.of());
        // A question may name a secret, as the mail address of the passenger that it is about.
        Redactor redactor =
                new Redactor(Detectors.usual().stream().map(Detectors::named).toList());
        String line =
                line(new Question(null, arguments.stream().map(redactor::redact).toList()));
        all.remove(line);
        all.add(line);
        write(recent, all.subList(Math.max(0, all.size() - MOST_RECENT), all.size()));
    }

    private static List<Question> read(Path file) throws IOException {
        List<Question> questions = new ArrayList<>();
        if (!Files.exists(file)) {
            return questions;
        }
        JsonFactory json = new JsonFactory();
        int number = 0;
        for (String line : Files.readAllLines(file)) {
            number++;
            try (JsonParser parser = json.createParser(line)) {
                questions.add(question(parser));
            } catch (IOException e) {
                throw new IOException(
                        file + ":" + number
                                + " is not a stored question: expected {\"name\":...,\"arguments\":[...]}; correct or remove the line",
                        e);
            }
        }
        return questions;
    }

    private static Question question(JsonParser json) throws IOException {
        String name = null;
        List<String> arguments = new ArrayList<>();
        while (json.nextToken() != null) {
            if (json.currentToken() == JsonToken.VALUE_STRING) {
                if (json.getParsingContext().inArray()) {
                    arguments.add(json.getText());
                } else {
                    name = json.getText();
                }
            }
        }
        return new Question(name, List.copyOf(arguments));
    }

    private void writeAll(Collection<Question> questions) throws IOException {
        write(kept, questions.stream().map(KeptQuestions::line).toList());
    }

    private static String line(Question question) {
        StringBuilder line = new StringBuilder("{");
        if (question.name() != null) {
            line.append("\"name\":").append(Json.of(question.name())).append(',');
        }
        line.append("\"arguments\":[");
        String before = "";
        for (String argument : question.arguments()) {
            line.append(before).append(Json.of(argument));
            before = ",";
        }
        return line.append("]}").toString();
    }

    /** Writes a temporary file first, so that a sudden end leaves the old or the new one. */
    private static void write(Path file, List<String> lines) throws IOException {
        Files.createDirectories(file.getParent());
        Path beside = file.resolveSibling(file.getFileName() + "." + Long.toHexString(System.nanoTime()));
        StringBuilder text = new StringBuilder();
        lines.forEach(line -> text.append(line).append('\n'));
        Files.createFile(beside);
        // Readable only by its owner, before it has any content.
        File shared = beside.toFile();
        shared.setReadable(false, false);
        shared.setReadable(true, true);
        Files.writeString(beside, text);
        Files.move(beside, file, StandardCopyOption.REPLACE_EXISTING, StandardCopyOption.ATOMIC_MOVE);
    }
}
