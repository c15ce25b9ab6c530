/** Jobs: their drafts, their live versions and how the two differ. */
package ninepin.server.jobs;
