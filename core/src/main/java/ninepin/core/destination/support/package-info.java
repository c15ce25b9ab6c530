/** What is asked of every kind of destination. */
package ninepin.core.destination.support;
