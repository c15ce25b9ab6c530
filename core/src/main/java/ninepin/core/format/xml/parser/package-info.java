/** The parser of XML, kept from everything that a document could make it do. */
package ninepin.core.format.xml.parser;
