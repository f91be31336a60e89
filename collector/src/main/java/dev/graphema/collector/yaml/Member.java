package dev.graphema.collector.yaml;

import java.util.List;

/**
 * A member of a settings file, from which the file is read and its schema is written.
 *
 * @param name its name
 * @param kind the form of its value
 * @param meaning what it sets, with the default
 * @param isRequired whether its group needs it
 * @param members the members of a group, or of each group of a list
 */
public record Member(String name, Kind kind, String meaning, boolean isRequired, List<Member> members) {
    /** The form of a value. */
    public enum Kind {
        TEXT("a text"),
        BOOLEAN("true or false"),
        NUMBER("a whole number"),
        TEXTS("a text or a list of texts"),
        GROUP("a mapping"),
        GROUPS("a list of mappings");

        private final String expected;

        Kind(String expected) {
            this.expected = expected;
        }

        String expected() {
            return expected;
        }
    }

    public static Member of(String name, Kind kind, String meaning) {
        return new Member(name, kind, meaning, false, List.of());
    }

    public static Member required(String name, Kind kind, String meaning) {
        return new Member(name, kind, meaning, true, List.of());
    }

    public static Member group(String name, String meaning, Member... members) {
        return new Member(name, Kind.GROUP, meaning, false, List.of(members));
    }

    public static Member groups(String name, String meaning, Member... members) {
        return new Member(name, Kind.GROUPS, meaning, false, List.of(members));
    }
}
