/**
 * Layouts of XML files from samples and from W3C XML Schema 1.0 documents, and schemas of layouts. {@link
 * ninepin.core.format.xml.proposer.XmlProposer}, {@link ninepin.core.format.xml.proposer.SchemaLayout} and {@link
 * ninepin.core.format.xml.proposer.SchemaOfLayout} are the ways in. Nothing outside the given documents is read.
 */
package ninepin.core.format.xml.proposer;
