package ninepin.core.format.xml;

import javax.xml.stream.XMLStreamException;
import ninepin.core.layout.Shown;
import ninepin.core.record.Fault;
import ninepin.core.record.RecordReader;

/** What there is to say where an XML file cannot be read on. */
final class XmlFaults {

    private XmlFaults() {}

    /** A fault of the file itself, behind which nothing of it is read. */
    static Fault ending(String code, String found, String expected, String advice) {
        return new Fault(code, -1, 0, 0, found, expected, advice).halting();
    }

    static Fault definition() {
        return ending(
                "XML-02",
                "a document type definition",
                "a file without one",
                "Definitions of entities are not read, for safety; ask the sender to leave it out.");
    }

    /** A breach behind the last record, which no record can be refused for. */
    static Fault breach(String message) {
        return ending(
                "XSD-01",
                "a breach of the schema: " + message,
                "what the schema allows",
                "It stands outside of all records; ask the sender.");
    }

    /** One text, comment, instruction or tag that would have to be held whole. */
    static Fault tooLong() {
        return ending(
                "XML-05",
                "a text, comment, instruction or tag of more than " + (RecordReader.MAX_RECORD_BYTES >> 20) + " MiB",
                "at most that",
                "Behind this place the file is not read; ask its sender.");
    }

    /** A character that no XML file may have. */
    static Fault forbidden(char c) {
        return ending(
                "XML-01",
                String.format("XML that is not well formed: the character U+%04X stands in it", (int) c),
                "well-formed XML",
                "Behind this place the file cannot be read; ask its sender.");
    }

    static Fault malformed(XMLStreamException e) {
        String reason = e.getMessage() == null ? "" : e.getMessage().replaceAll("\\s+at \\[row,col.*", "");
        return ending(
                "XML-01",
                "XML that is not well formed: " + Shown.visible(reason.replaceAll("\\s+", " ")),
                "well-formed XML",
                "Behind this place the file cannot be read; ask its sender.");
    }
}
