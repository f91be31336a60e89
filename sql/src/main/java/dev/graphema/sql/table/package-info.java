/**
 * What is asked of a table of events in SQL, whoever executes the statements: conditions, counts, orders with limits. Entry points: {@link
 * dev.graphema.sql.table.TablePlan} and {@link dev.graphema.sql.table.Statements}.
 */
package dev.graphema.sql.table;
