/** The service of the boarding gates and their scanners. Entry point: {@link skerry.gate.GateService}. */
package skerry.gate;
