/** Records who asks what, as events for administrators. */
package dev.graphema.collector.audit;
