/**
 * Instructions in ordinary English for the ready rules. A grammar of fixed phrases, read on this machine: what is
 * understood becomes rules, shown as sentences; what is not is said, with the nearest phrase.
 *
 * <p>Enter at {@link ninepin.core.wording.Wording}. A further phrase is one entry of {@link Phrases}.
 */
package ninepin.core.wording;
