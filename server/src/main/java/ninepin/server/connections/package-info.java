/** Databases that jobs deliver to: how they are reached, whether they answer, which tables they have. */
package ninepin.server.connections;
