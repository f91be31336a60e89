/**
 * Thinning events so that those kept still tell how many there were. Entry point: {@link
 * dev.graphema.sampling.Sampler}. The package knows events and conditions.
 */
package dev.graphema.sampling;
