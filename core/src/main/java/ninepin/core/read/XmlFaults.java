package ninepin.core.read;

import javax.xml.stream.XMLStreamException;
import ninepin.core.layout.Shown;

/** What there is to say where an XML file cannot be read on. */
final class XmlFaults {

    private XmlFaults() {}

    static Fault definition() {
        return new Fault(
                        "XML-02",
                        -1,
                        0,
                        0,
                        "a document type definition",
                        "a file without one",
                        "Definitions of entities are not read, for safety; ask the sender to leave it out.")
                .halting();
    }

    /** A breach behind the last record, which no record can be refused for. */
    static Fault breach(String message) {
        return new Fault(
                        "XSD-01",
                        -1,
                        0,
                        0,
                        "a breach of the schema: " + message,
                        "what the schema allows",
                        "It stands outside of all records; ask the sender.")
                .halting();
    }

    /** One text, comment, instruction or tag that would have to be held whole. */
    static Fault tooLong() {
        return new Fault(
                        "XML-05",
                        -1,
                        0,
                        0,
                        "a text, comment, instruction or tag of more than " + (WindowReader.MAX_RECORD_BYTES >> 20)
                                + " MiB",
                        "at most that",
                        "Behind this place the file is not read; ask its sender.")
                .halting();
    }

    /** A character that no XML file may have. */
    static Fault forbidden(char c) {
        return new Fault(
                        "XML-01",
                        -1,
                        0,
                        0,
                        String.format("XML that is not well formed: the character U+%04X stands in it", (int) c),
                        "well-formed XML",
                        "Behind this place the file cannot be read; ask its sender.")
                .halting();
    }

    static Fault malformed(XMLStreamException e) {
        String reason = e.getMessage() == null ? "" : e.getMessage().replaceAll("\\s+at \\[row,col.*", "");
        return new Fault(
                        "XML-01",
                        -1,
                        0,
                        0,
                        "XML that is not well formed: " + Shown.visible(reason.replaceAll("\\s+", " ")),
                        "well-formed XML",
                        "Behind this place the file cannot be read; ask its sender.")
                .halting();
    }
}
