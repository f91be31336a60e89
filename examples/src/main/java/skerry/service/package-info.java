/** What all services of Skerry Line, a made-up ferry operator, have in common: starting, serving, calling one another. */
package skerry.service;
