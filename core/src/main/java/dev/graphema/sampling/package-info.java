/**
 * Sampling, with weights from which counts are estimated. Entry point: {@link dev.graphema.sampling.Sampler}. The
 * package depends on events and conditions.
 */
package dev.graphema.sampling;
