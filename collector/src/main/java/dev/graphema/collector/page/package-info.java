/**
 * The files of the page, which runs in a browser and uses the public requests of the collector only. Its modules, and those of libraries,
 * are resources of this package.
 */
package dev.graphema.collector.page;
