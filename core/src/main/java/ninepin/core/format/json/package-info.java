/** JSON, one value a file or one a line. */
package ninepin.core.format.json;
