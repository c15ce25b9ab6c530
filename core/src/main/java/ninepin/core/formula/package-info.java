/**
 * Formulas: scalar expressions of ISO SQL (ISO/IEC 9075-2), read, typed and evaluated. See
 * {@code docs/decisions/05-formulas.md} for what is taken over and where the choice was left to the implementation.
 */
package ninepin.core.formula;
