/** Events of HTTP requests and calls, and their correlation. */
module dev.graphema.web {
    requires transitive dev.graphema.core;
    requires transitive java.net.http;
    requires static jakarta.servlet;
    requires transitive jdk.httpserver;

    exports dev.graphema.web;
}
