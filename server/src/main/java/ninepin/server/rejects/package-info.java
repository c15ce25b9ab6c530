/**
 * The reject desk: records that runs have refused, across runs and jobs. They are looked at with what was said of them,
 * corrected, sent again with runs of their own, or set aside for good; who did what stays on record, and what came stays as
 * it came. Enter at {@link ninepin.server.rejects.RejectDesk}.
 */
package ninepin.server.rejects;
