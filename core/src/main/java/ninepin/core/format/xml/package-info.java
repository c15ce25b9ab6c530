/** XML 1.0 and 1.1, without document type definitions and with nothing from outside: reading, writing, rejects. */
package ninepin.core.format.xml;
