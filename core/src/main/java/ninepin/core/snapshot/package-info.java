/** What a run takes from elsewhere at its first start and keeps, so that a restart sees the same. */
package ninepin.core.snapshot;
