/**
 * Records to rows: one rule for each target field says where its value comes from and what is done to it. Rows are
 * written as bytes in one neutral text form that bulk statements of databases take as it is.
 *
 * <p>Enter at {@link ninepin.core.shape.Shaper}. Formulas, grouping and lanes will stand beside {@link Origin}: a new
 * origin is a new record there and a new {@link ColumnWriter}.
 */
package ninepin.core.shape;
