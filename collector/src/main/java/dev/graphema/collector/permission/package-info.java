/** Decides whether a request is allowed. */
package dev.graphema.collector.permission;
