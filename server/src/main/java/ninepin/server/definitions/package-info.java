/** Definitions as the server compares and keeps them, whatever they define. */
package ninepin.server.definitions;
