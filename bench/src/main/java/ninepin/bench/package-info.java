/** Whole-run comparisons: ours and a yardstick in turn, in one process tree, told as a ratio of medians. */
package ninepin.bench;
