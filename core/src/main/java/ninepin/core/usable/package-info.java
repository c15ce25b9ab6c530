/** What of a draft can be used: its documents, rules and formulas as far as they are whole, and what their values fit into. */
package ninepin.core.usable;
