package dev.graphema.web;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.TreeSet;

/**
 * Which values request events contain in addition to method, route, path, status, sizes and duration, and which
 * requests are excluded. Immutable; built by a {@link Builder}.
 */
public final class RequestOptions {
    /** No additional values, and no excluded requests. */
    public static final RequestOptions USUAL = builder().build();

    private final Set<String> excludedPaths;
    private final List<String> excludedBranches;
    private final List<String> headers;
    private final Set<String> queryParameters;
    private final boolean remoteAddress;
    private final int bodyBytes;
    private final List<String> bodyTypes;

    private RequestOptions(Builder builder) {
        excludedPaths = Set.copyOf(builder.excludedPaths);
        excludedBranches = List.copyOf(builder.excludedBranches);
        headers = List.copyOf(builder.headers);
        queryParameters = Set.copyOf(builder.queryParameters);
        remoteAddress = builder.remoteAddress;
        bodyBytes = builder.bodyBytes;
        bodyTypes = List.copyOf(builder.bodyTypes);
    }

    public static Builder builder() {
        return new Builder();
    }

    boolean excludes(String path) {
        if (excludedPaths.contains(path)) {
            return true;
        }
        for (String branch : excludedBranches) {
            if (path.startsWith(branch)) {
                return true;
            }
        }
        return false;
    }

    /** Returns the recorded headers, in lower case. */
    List<String> headers() {
        return headers;
    }

    boolean showsParameter(String name) {
        return queryParameters.contains(name);
    }

    boolean remoteAddress() {
        return remoteAddress;
    }

    /** Returns how many bytes of the body are recorded; 0 for none. */
    int bodyBytes(String method, String contentType) {
        boolean writes = method.equals("POST") || method.equals("PUT") || method.equals("PATCH");
        if (bodyBytes == 0 || !writes || contentType == null) {
            return 0;
        }
        String type = contentType.toLowerCase(Locale.ROOT);
        return bodyTypes.stream().anyMatch(type::startsWith) ? bodyBytes : 0;
    }

    /** Builds the options. */
    public static final class Builder {
        private final Set<String> excludedPaths = new TreeSet<>();
        private final List<String> excludedBranches = new ArrayList<>();
        private final List<String> headers = new ArrayList<>();
        private final Set<String> queryParameters = new TreeSet<>();
        private boolean remoteAddress;
        private int bodyBytes;
        private List<String> bodyTypes = List.of();

        private Builder() {}

        /**
         * Excludes requests, such as health checks.
         *
         * @param paths complete paths, or prefixes that end in {@code /*}
         */
        public Builder exclude(String... paths) {
            for (String path : paths) {
                if (path.endsWith("/*")) {
                    excludedBranches.add(path.substring(0, path.length() - 1));
                } else {
                    excludedPaths.add(path);
                }
            }
            return this;
        }

        /** Records request headers, in the group {@code headers}. Other headers are never recorded. */
        public Builder headers(String... names) {
            for (String name : names) {
                headers.add(name.toLowerCase(Locale.ROOT));
            }
            return this;
        }

        /** Records the values of query parameters; of others, only the names are recorded. */
        public Builder queryParameters(String... names) {
            queryParameters.addAll(List.of(names));
            return this;
        }

        /** Records the address of the client. */
        public Builder remoteAddress() {
            remoteAddress = true;
            return this;
        }

        /**
         * Records the beginning of the bodies of POST, PUT and PATCH, as far as the handler has read them.
         *
         * @param mostBytes the most bytes of a body, from 1 to 16384
         * @param contentTypes prefixes of content types, for example {@code application/json}
         */
        public Builder body(int mostBytes, String... contentTypes) {
            if (mostBytes < 1 || mostBytes > 16_384) {
                throw new IllegalArgumentException("mostBytes: " + mostBytes + " (expected: 1 to 16384)");
            }
            if (contentTypes.length == 0) {
                throw new IllegalArgumentException(
                        "contentTypes: none (expected: at least one, such as application/json)");
            }
            bodyBytes = mostBytes;
            bodyTypes = List.of(contentTypes).stream()
                    .map(type -> type.toLowerCase(Locale.ROOT))
                    .toList();
            return this;
        }

        public RequestOptions build() {
            return new RequestOptions(this);
        }
    }
}
