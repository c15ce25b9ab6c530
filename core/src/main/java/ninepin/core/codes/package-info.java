/**
 * Code lists: tables of translations, what is valid when, and what happens to a value that is not in them.
 *
 * <p>A {@link ninepin.core.codes.CodeList} is what people keep; a {@link ninepin.core.codes.CodeTable} is what formulas
 * and rules ask, made of it once for a run.
 */
package ninepin.core.codes;
