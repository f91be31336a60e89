/** Parts of texts that have names of their own: shapes of messages, paths, hosts, and what a pattern finds. */
package dev.graphema.query.part;
