package dev.graphema.web;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.TreeSet;

/**
 * What request events tell beside method, route, path, status, sizes and duration, and which requests are left out.
 * Immutable; made by a {@link Builder}.
 */
public final class RequestOptions {
    /** Nothing more is told, and nothing is left out. */
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

    /** The headers to tell, in lower case. */
    List<String> headers() {
        return headers;
    }

    boolean showsParameter(String name) {
        return queryParameters.contains(name);
    }

    boolean remoteAddress() {
        return remoteAddress;
    }

    /** How many bytes of the body to tell; 0 for none. */
    int bodyBytes(String method, String contentType) {
        boolean writes = method.equals("POST") || method.equals("PUT") || method.equals("PATCH");
        if (bodyBytes == 0 || !writes || contentType == null) {
            return 0;
        }
        String type = contentType.toLowerCase(Locale.ROOT);
        return bodyTypes.stream().anyMatch(type::startsWith) ? bodyBytes : 0;
    }

    /** Gathers the options. */
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
         * Requests that are served, but not told, such as health checks.
         *
         * @param paths whole paths, or beginnings of paths when they end in {@code /*}
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

        /** Request headers to tell, in the group {@code headers}. No other header is ever told. */
        public Builder headers(String... names) {
            for (String name : names) {
                headers.add(name.toLowerCase(Locale.ROOT));
            }
            return this;
        }

        /** Parameters of the query whose values are told; of all others, only the names are. */
        public Builder queryParameters(String... names) {
            queryParameters.addAll(List.of(names));
            return this;
        }

        /** Tells from which address the request came. */
        public Builder remoteAddress() {
            remoteAddress = true;
            return this;
        }

        /**
         * Tells the beginning of the bodies of POST, PUT and PATCH, as far as the handler has read them.
         *
         * @param mostBytes how much of a body is told, from 1 to 16384
         * @param contentTypes beginnings of the content types for which it is, for example {@code application/json}
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
