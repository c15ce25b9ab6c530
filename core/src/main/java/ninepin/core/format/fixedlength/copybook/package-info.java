/**
 * COBOL copybooks (ISO/IEC 1989, 13.16 data description entries) as fixed-length layouts. {@link
 * ninepin.core.format.fixedlength.copybook.CopybookLayout} is the way in; it goes over {@link ninepin.core.format.fixedlength.copybook.Copybook},
 * the entries as they are written.
 */
package ninepin.core.format.fixedlength.copybook;
