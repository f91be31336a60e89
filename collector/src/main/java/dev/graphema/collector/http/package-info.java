/** The server: requests, limits of their bodies, and problems as documents. */
package dev.graphema.collector.http;
