/**
 * Files as the target of a run: records by a layout, written to a temporary name, forced to disk and then given their own
 * name, so that whoever looks sees whole files. Enter at {@link ninepin.core.deliver.file.FileTarget}. {@link
 * ninepin.core.deliver.file.FileComposer} decides which document stands in which file and knows nothing of disks.
 */
package ninepin.core.deliver.file;
