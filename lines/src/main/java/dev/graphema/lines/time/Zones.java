package dev.graphema.lines.time;

import java.time.ZoneOffset;
import java.util.HashMap;
import java.util.Map;
import java.util.Set;

/**
 * Abbreviated names of zones in times. A name denotes a fixed offset, independent of the date: {@code EST} is always
 * five hours behind UTC. A name of several zones has no offset unless the user defines one.
 */
final class Zones {
    private static final Map<String, ZoneOffset> OFFSETS = new HashMap<>();

    /** Names that are common in logs and denote several zones. */
    private static final Set<String> AMBIGUOUS =
            Set.of("IST", "CST", "AST", "AMT", "ADT", "BDT", "ECT", "GST", "LHST", "SST", "WST", "ACT", "ART", "BOT");

    static {
        put("+00:00", "UTC", "GMT", "UT", "WET");
        put("+01:00", "WEST", "BST", "CET");
        put("+02:00", "CEST", "EET", "SAST");
        put("+03:00", "EEST", "MSK");
        put("+08:00", "AWST");
        put("+09:00", "JST", "KST");
        put("+09:30", "ACST");
        put("+10:30", "ACDT");
        put("+10:00", "AEST");
        put("+11:00", "AEDT");
        put("+12:00", "NZST");
        put("+13:00", "NZDT");
        put("-04:00", "EDT");
        put("-05:00", "EST", "CDT");
        put("-06:00", "MDT");
        put("-07:00", "MST", "PDT");
        put("-08:00", "PST", "AKDT");
        put("-09:00", "AKST");
        put("-10:00", "HST");
    }

    private Zones() {}

    private static void put(String offset, String... names) {
        for (String name : names) {
            OFFSETS.put(name, ZoneOffset.of(offset));
        }
    }

    /** Returns the offset of a name; null if it is unknown or ambiguous. */
    static ZoneOffset offset(String name) {
        return OFFSETS.get(name);
    }

    /** Returns whether several zones have this name. */
    static boolean isAmbiguous(String name) {
        return AMBIGUOUS.contains(name);
    }
}
