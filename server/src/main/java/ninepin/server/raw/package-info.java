/** Files as they are: by piece, searched, and chosen from the folders that jobs may look into. */
package ninepin.server.raw;
