/**
 * The common code of all services of Skerry Line, a fictional ferry operator: starting, serving, calling each other.
 */
package skerry.service;
