/** What alerts are about, and who receives them. */
package dev.graphema.collector.alert;
