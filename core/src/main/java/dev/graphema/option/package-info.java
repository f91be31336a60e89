/**
 * The choices that a kind of sink or format offers, described once: name, type, default and meaning. Whoever reads
 * settings, writes them, checks them or documents them works from these descriptions. Entry point: {@link
 * dev.graphema.option.Option}.
 *
 * <p>The package knows nothing of the kinds that offer options, nor of the file in which they may be written.
 */
package dev.graphema.option;
