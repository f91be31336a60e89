/** Evaluates alerts, remembers their state, and delivers their changes. */
package dev.graphema.collector.alerting;
