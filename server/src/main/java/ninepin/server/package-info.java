/** The application around the core: a package for each subject, each with its endpoint, its service and its mapper. */
package ninepin.server;
