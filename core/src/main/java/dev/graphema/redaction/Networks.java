package dev.graphema.redaction;

/** Reduces addresses to their networks: {@code 203.0.113.0}, {@code 2001:db8:7::}. */
final class Networks {
    private static final int GROUPS_KEPT = 3;

    private Networks() {}

    static String of(String address, String kind) {
        int dot = address.lastIndexOf('.');
        if (dot > 0 && address.indexOf(':') < 0) {
            return address.substring(0, dot) + ".0";
        }
        if (address.indexOf(':') < 0) {
            return Treatment.FIXED.treat(address, kind); // no address: nothing of it may stay
        }
        String[] groups = address.split(":", -1);
        StringBuilder network = new StringBuilder();
        for (int i = 0; i < GROUPS_KEPT && i < groups.length && !groups[i].isEmpty(); i++) {
            network.append(groups[i]).append(':');
        }
        return network.append(network.isEmpty() ? "::" : ":").toString();
    }
}
