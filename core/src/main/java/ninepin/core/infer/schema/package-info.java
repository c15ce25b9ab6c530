/**
 * W3C XML Schema 1.0 documents as layouts of XML files, and the other way round. {@link
 * ninepin.core.infer.schema.SchemaLayout} and {@link ninepin.core.infer.schema.SchemaOfLayout} are the ways in. Nothing
 * outside the given documents is read.
 */
package ninepin.core.infer.schema;
