/**
 * Where rows go: a {@link ninepin.core.destination.DestinationSupport} for each kind of place, which opens its targets, says what
 * it lacks, takes back what was delivered and has words for it.
 */
package ninepin.core.destination;
