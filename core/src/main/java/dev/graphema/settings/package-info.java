/**
 * Settings as values: levels, redaction, sampling, sinks and routes. Entry points: {@link
 * dev.graphema.settings.Settings} and its builder, and {@link dev.graphema.settings.SettingsFile}, which reads them
 * from YAML.
 *
 * <p>The package opens no sinks and starts no threads.
 */
package dev.graphema.settings;
