/**
 * What a runtime is made of, as a value: levels, redaction, sampling, sinks and routes. Entry points: {@link
 * dev.graphema.settings.Settings} and its builder, and {@link dev.graphema.settings.SettingsFile}, which reads the same
 * from YAML.
 *
 * <p>Settings open no file and start no thread; that is left to whoever uses them.
 */
package dev.graphema.settings;
