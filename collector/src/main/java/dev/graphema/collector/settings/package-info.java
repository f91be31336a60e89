/** The settings file of a collector: {@link dev.graphema.collector.settings.CollectorFile}. */
package dev.graphema.collector.settings;
