/** Finding files that are ready, and claiming them. */
package ninepin.server.pickup;
