/** The code lists: their versions, where they are used, and what a run takes of them. */
package ninepin.server.codes;
