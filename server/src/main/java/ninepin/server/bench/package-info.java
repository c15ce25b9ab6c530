/** The bench: what the sheet does to the sample, and rehearsals. */
package ninepin.server.bench;
