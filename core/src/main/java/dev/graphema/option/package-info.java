/**
 * The options of kinds of sinks and formats: name, type, default and description. Reading, writing, checking and
 * documenting settings use these descriptions. Entry point: {@link dev.graphema.option.Option}.
 *
 * <p>The package does not depend on the kinds that define options, or on the format of settings.
 */
package dev.graphema.option;
