/** The commands that write segments and stores. */
package dev.graphema.cli.store;
