/** The documentation as pages of HTML that need no server and no network. */
package dev.graphema.site;
