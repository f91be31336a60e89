/** The tokens of those who may send and ask, of which only hashes are kept: {@link dev.graphema.collector.access.Tokens}. */
package dev.graphema.collector.access;
