/** What a job makes of a sample: for the bench, beside the rules, and for rules that are proposed. */
package ninepin.core.preview;
