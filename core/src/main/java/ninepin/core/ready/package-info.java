/** What keeps a job from running, and what its author should know. */
package ninepin.core.ready;
