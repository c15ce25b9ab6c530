/**
 * Workbooks (ISO/IEC 29500, .xlsx). A workbook is transcribed once to a text of lines, a row each, and that text is read, shown,
 * repaired and gone on with as every other file of lines. Writing is the same backwards: rows are written as lines, and the
 * workbook is composed of them at the end. Enter at {@link ninepin.core.format.workbook.WorkbookSupport}.
 */
package ninepin.core.format.workbook;
