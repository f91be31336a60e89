package dev.graphema.redaction;

import dev.graphema.option.Selection;
import dev.graphema.text.Nearest;
import java.util.List;
import java.util.Set;

/** The available detectors: built-in ones, and services of libraries and the program. Thread-safe. */
public final class Detectors {
    private static final List<Detector> BUILT_IN = List.of(
            new PaymentCards(),
            new Ibans(),
            new MailAddresses(),
            new Tokens(),
            new NationalIds(),
            new NamedSecrets(),
            new UrlSecrets(),
            new PrivateKeys(),
            new Telephones(),
            new IpAddresses());

    /** Many logs need addresses of hosts, and numbers that look like telephone numbers. */
    private static final Set<String> ON_REQUEST = Set.of("telephone", "ip");

    private static final Selection<Detector> ALL = Selection.of(Detector.class, BUILT_IN);

    private Detectors() {}

    /** Returns all available detectors. */
    public static Selection<Detector> all() {
        return ALL;
    }

    /** Returns the names of the built-in detectors. */
    public static List<String> builtIn() {
        return BUILT_IN.stream().map(Detector::name).toList();
    }

    /** Returns the names of the default detectors. */
    public static List<String> usual() {
        return builtIn().stream().filter(name -> !ON_REQUEST.contains(name)).toList();
    }

    /**
     * Returns the detector with this name.
     *
     * @throws IllegalArgumentException if there is none; the message lists all names
     */
    public static Detector named(String name) {
        Detector detector = ALL.named(name);
        if (detector == null) {
            throw new IllegalArgumentException("no detector is called \"" + name + "\": expected one of "
                    + String.join(", ", all().names())
                    + Nearest.hint(name, all().names()));
        }
        return detector;
    }
}
