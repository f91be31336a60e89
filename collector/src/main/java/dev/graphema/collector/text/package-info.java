/** JSON in small files and bodies. */
package dev.graphema.collector.text;
