/**
 * What a job takes, when it looks for it and when it is ready: {@link ninepin.core.pickup.PickUp}. Where it comes from is a
 * {@link ninepin.core.pickup.From}, one record for each kind of source.
 */
package ninepin.core.pickup;
