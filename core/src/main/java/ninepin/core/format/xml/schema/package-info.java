/** W3C XML Schema 1.0: the documents as they are written, and validation against them within a budget. */
package ninepin.core.format.xml.schema;
