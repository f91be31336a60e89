package dev.graphema.redaction;

/**
 * IPv4 addresses of four numbers from 0 to 255, and IPv6 addresses (RFC 4291) of hexadecimal groups with at least three
 * colons or with {@code ::}. Version numbers of four parts look the same and are found, too; times such as {@code
 * 07:31:02} are not.
 */
final class IpAddresses implements Detector {
    private static final int SHORTEST = "::1".length();
    private static final int LONGEST = 45;

    @Override
    public String name() {
        return "ip";
    }

    @Override
    public int shortest() {
        return SHORTEST;
    }

    @Override
    public Trigger trigger() {
        return Trigger.anyOf(".:");
    }

    @Override
    public long find(String text, int from) {
        for (int i = from; i <= text.length() - SHORTEST; i++) {
            char c = text.charAt(i);
            if (!isHex(c) && c != ':' || i > 0 && isPart(text.charAt(i - 1))) {
                continue;
            }
            int run = i;
            int most = Math.min(text.length(), i + LONGEST + 1);
            while (run < most && isPart(text.charAt(run))) {
                run++;
            }
            int end = end(text, i, run);
            if (end > 0) {
                return Detector.range(i, end);
            }
            i = Math.max(i, run - 1);
        }
        return NOTHING;
    }

    /**
     * Returns the end of the address in the run, without a punctuation mark at the end of a sentence; -1 if it is none.
     */
    private static int end(String text, int from, int to) {
        int end = to;
        while (end > from + SHORTEST
                && (text.charAt(end - 1) == '.' || text.charAt(end - 1) == ':' && text.charAt(end - 2) != ':')) {
            end--;
        }
        String run = text.substring(from, end);
        if (isIpv4(run) || isIpv6(run)) {
            return end;
        }
        int colon = run.indexOf(':');
        boolean hasPort = colon > 0 && run.indexOf(':', colon + 1) < 0 && isIpv4(run.substring(0, colon));
        return hasPort ? from + colon : -1;
    }

    private static boolean isIpv4(String text) {
        String[] parts = text.split("\\.", -1);
        if (parts.length != 4) {
            return false;
        }
        for (String part : parts) {
            boolean digits =
                    !part.isEmpty() && part.length() <= 3 && part.chars().allMatch(c -> c >= '0' && c <= '9');
            if (!digits || part.length() > 1 && part.charAt(0) == '0' || Integer.parseInt(part) > 255) {
                return false;
            }
        }
        return true;
    }

    private static boolean isIpv6(String text) {
        int gap = text.indexOf("::");
        if (gap != text.lastIndexOf("::") || text.chars().filter(c -> c == ':').count() < (gap >= 0 ? 2 : 7)) {
            return false;
        }
        if (text.startsWith(":") && gap != 0 || text.endsWith(":") && gap != text.length() - 2) {
            return false;
        }
        int groups = 0;
        for (String group : text.split(":")) {
            if (group.isEmpty()) {
                continue;
            }
            groups++;
            if (isIpv4(group)) {
                groups++;
            } else if (group.length() > 4 || !group.chars().allMatch(IpAddresses::isHex)) {
                return false;
            }
        }
        // Two colons alone, as between names of a programming language, are no address.
        return gap >= 0 ? groups >= 1 && groups <= 7 && hasDigit(text) : groups == 8;
    }

    private static boolean hasDigit(String text) {
        return text.chars().anyMatch(c -> c >= '0' && c <= '9');
    }

    private static boolean isPart(char c) {
        return Character.isLetterOrDigit(c) || c == ':' || c == '.' || c == '_' || c == '-';
    }

    private static boolean isHex(int c) {
        return c >= '0' && c <= '9' || c >= 'a' && c <= 'f' || c >= 'A' && c <= 'F';
    }
}
