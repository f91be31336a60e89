/** Receives messages of RFC 5424 by UDP, TCP and TLS. */
package dev.graphema.collector.syslog;
