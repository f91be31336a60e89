package dev.graphema.spark.lake;

import java.io.BufferedReader;
import java.io.FileNotFoundException;
import java.io.IOException;
import java.io.InputStreamReader;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import org.apache.hadoop.fs.FSDataOutputStream;
import org.apache.hadoop.fs.FileStatus;
import org.apache.hadoop.fs.FileSystem;
import org.apache.hadoop.fs.LocatedFileStatus;
import org.apache.hadoop.fs.Path;
import org.apache.hadoop.fs.RemoteIterator;

/**
 * The files of a lake: {@code day=2026-05-15/hour=6/NAME.parquet}. Files that belong together become visible at once: a list in the folder
 * {@code _lists} hides new files while they are moved to their places ({@code NAME.new}), and old ones behind it, which are then
 * deleted ({@code NAME.old}). The file system must rename a file at once. Thread-safe; several processes may write with different names.
 */
public final class LakeFiles {
    private static final String LISTS = "_lists";
    private static final String STAGING = "_staging";
    private static final String NEW = ".new";
    private static final String OLD = ".old";
    private static final String DONE = ".done";
    private static final String PARQUET = ".parquet";
    private static final String DAY = "day=";
    private static final String REPLACED = "-";
    private static final String ADDED = "+";

    private static final int MOST_ATTEMPTS = 20;

    private final FileSystem files;
    private final Path root;

    public LakeFiles(FileSystem files, Path root) {
        this.files = files;
        this.root = files.makeQualified(root);
    }

    /** Returns the folder of an hour. */
    public String folder(String day, String hour) {
        return new Path(new Path(root, day), hour).toString();
    }

    /** Returns where the files of a change are written first; what an interrupted one has left there is deleted. */
    public Path staging(String name) throws IOException {
        undo(name);
        Path staging = new Path(new Path(root, STAGING), name);
        files.delete(staging, true);
        return staging;
    }

    /** Returns whether a change was made. */
    public boolean isDone(String name) throws IOException {
        return files.exists(list(name, DONE)) || files.exists(list(name, OLD));
    }

    /**
     * Makes the files of a change visible, all at once.
     *
     * @param name of the change, whose files were written to {@link #staging}
     * @param replaced the files that are deleted instead
     * @throws IOException if another job replaces one of these files, too: then nothing has changed
     */
    public void commit(String name, Collection<String> replaced) throws IOException {
        Path staging = new Path(new Path(root, STAGING), name);
        List<Path> written = parquet(staging);
        List<String> lines = new ArrayList<>();
        List<Path> targets = new ArrayList<>();
        for (int i = 0; i < written.size(); i++) {
            Path hour = written.get(i).getParent();
            Path target = new Path(
                    new Path(new Path(root, hour.getParent().getName()), hour.getName()), name + "-" + i + PARQUET);
            targets.add(target);
            lines.add(ADDED + target);
        }
        replaced.forEach(each -> lines.add(REPLACED + each));
        write(list(name, NEW), lines);
        requireUnchanged(name, replaced);
        for (int i = 0; i < written.size(); i++) {
            files.mkdirs(targets.get(i).getParent());
            rename(written.get(i), targets.get(i));
        }
        rename(list(name, NEW), list(name, OLD));
        finish(name);
        files.delete(staging, true);
    }

    /** Ends a change whose files another job replaces, too; at least one of two sees the other. */
    private void requireUnchanged(String name, Collection<String> replaced) throws IOException {
        Set<String> ofOthers = new HashSet<>();
        for (Path each : lists()) {
            if (!each.getName().startsWith(name + ".")) {
                ofOthers.addAll(lines(each, REPLACED));
            }
        }
        for (String each : replaced) {
            if (ofOthers.contains(each) || !files.exists(new Path(each))) {
                undo(name);
                throw new IOException(each + " is replaced by another job: let only one job tidy a lake");
            }
        }
    }

    /** Deletes the files that a change has replaced. */
    private void finish(String name) throws IOException {
        for (String each : lines(list(name, OLD), REPLACED)) {
            files.delete(new Path(each), false);
        }
        rename(list(name, OLD), list(name, DONE));
    }

    /** Deletes what an interrupted change has moved already. */
    private void undo(String name) throws IOException {
        Path list = list(name, NEW);
        if (files.exists(list)) {
            for (String each : lines(list, ADDED)) {
                files.delete(new Path(each), false);
            }
            files.delete(list, false);
        }
    }

    /** Forgets that a change was made, when it cannot be repeated any more. */
    public void forget(String name) throws IOException {
        files.delete(list(name, DONE), false);
    }

    /** Finishes changes that were interrupted when they were visible already. */
    public void finishInterrupted() throws IOException {
        for (Path each : lists()) {
            String file = each.getName();
            if (file.endsWith(OLD)) {
                finish(file.substring(0, file.length() - OLD.length()));
            }
        }
    }

    /** Returns the visible files. */
    public List<String> current() throws IOException {
        Set<Path> before = lists();
        for (int attempt = 0; attempt < MOST_ATTEMPTS; attempt++) {
            Set<String> hidden = new HashSet<>();
            for (Path each : before) {
                if (each.getName().endsWith(NEW)) {
                    hidden.addAll(lines(each, ADDED));
                } else if (each.getName().endsWith(OLD)) {
                    hidden.addAll(lines(each, REPLACED));
                }
            }
            List<Path> all = parquet(root);
            Set<Path> after = lists();
            if (after.equals(before)) {
                return all.stream()
                        .map(Path::toString)
                        .filter(file -> !hidden.contains(file))
                        .sorted()
                        .toList();
            }
            before = after; // something became visible meanwhile
        }
        throw new IOException(
                root + " is changed again and again while it is read: try again when fewer jobs write it");
    }

    /** Returns how many bytes files have together. */
    public long bytes(Collection<String> paths) throws IOException {
        long bytes = 0;
        for (String each : paths) {
            bytes += files.getFileStatus(new Path(each)).getLen();
        }
        return bytes;
    }

    private List<Path> parquet(Path folder) throws IOException {
        List<Path> found = new ArrayList<>();
        if (!files.exists(folder)) {
            return found;
        }
        for (FileStatus day : files.listStatus(folder, path -> path.getName().startsWith(DAY))) {
            RemoteIterator<LocatedFileStatus> below = files.listFiles(day.getPath(), true);
            while (below.hasNext()) {
                Path file = below.next().getPath();
                if (file.getName().endsWith(PARQUET)
                        && !file.getName().startsWith("_")
                        && !file.getName().startsWith(".")) {
                    found.add(file);
                }
            }
        }
        return found;
    }

    private Set<Path> lists() throws IOException {
        Path folder = new Path(root, LISTS);
        Set<Path> found = new HashSet<>();
        if (files.exists(folder)) {
            for (FileStatus each :
                    files.listStatus(folder, path -> !path.getName().startsWith("."))) {
                found.add(each.getPath());
            }
        }
        return found;
    }

    private Path list(String name, String state) {
        return new Path(new Path(root, LISTS), name + state);
    }

    /** Returns the files of one kind in a list; none if it has changed its state since. */
    private List<String> lines(Path list, String kind) throws IOException {
        List<String> lines = new ArrayList<>();
        try (BufferedReader text =
                new BufferedReader(new InputStreamReader(files.open(list), StandardCharsets.UTF_8))) {
            text.lines().filter(line -> line.startsWith(kind)).forEach(line -> lines.add(line.substring(1)));
        } catch (FileNotFoundException e) {
            return List.of();
        }
        return lines;
    }

    private void write(Path file, List<String> lines) throws IOException {
        Path next = new Path(file.getParent(), "." + file.getName());
        files.mkdirs(file.getParent());
        try (FSDataOutputStream out = files.create(next, true)) {
            out.write(String.join("\n", lines).getBytes(StandardCharsets.UTF_8));
            out.hsync();
        }
        rename(next, file);
    }

    private void rename(Path from, Path to) throws IOException {
        if (!files.rename(from, to)) {
            throw new IOException(from + " cannot be renamed to " + to + ": is the folder writable?");
        }
    }
}
