/** What the interface asks about layouts apart from jobs. */
package ninepin.server.layouts;
