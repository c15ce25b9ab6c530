/**
 * Look-ups: fields that are added to records by a key, from a table or from another file. What they look into is read
 * once, before the first record, and held in memory.
 */
package ninepin.core.lookup;
