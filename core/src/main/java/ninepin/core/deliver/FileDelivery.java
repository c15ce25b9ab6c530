package ninepin.core.deliver;

import java.util.Locale;
import ninepin.core.bytes.FilePattern;
import ninepin.core.layout.DefinitionException;
import ninepin.core.layout.Layout;
import ninepin.core.layout.RecordType;
import ninepin.core.record.WriteStyle;
import ninepin.core.record.WriteStyle.LineEnd;

/**
 * A delivery to files: its rows become records of one type of a layout.
 *
 * @param file the files it goes to; deliveries with the same folder and name go to the same ones
 * @param record the name of the record type; null for the first one of the layout
 * @param stands where in a file its records stand
 */
public record FileDelivery(OutFile file, String record, Stands stands) implements Destination {

    /** Where in a file the records of a delivery stand. */
    public enum Stands {
        /** A record for each row, in order. */
        EACH,
        /** One at the beginning of each file, made of the first row that comes. */
        FIRST,
        /** One at the end of each file, made of the last row that came. */
        LAST;

        @Override
        public String toString() {
            return name().toLowerCase(Locale.ROOT);
        }
    }

    /** What a file is made for. */
    public enum Per {
        RUN,
        DOCUMENT,
        /** For each value of a target field. */
        GROUP,
        /** For so many records; documents are not parted. */
        RECORDS;

        @Override
        public String toString() {
            return name().toLowerCase(Locale.ROOT);
        }
    }

    /**
     * Files of one kind.
     *
     * @param root the name of a configured root folder
     * @param folder the folder below it, or empty for the root itself; made where it is not there
     * @param name the pattern of their names; see {@link ninepin.core.deliver.file.FileName}
     * @param layout how they are written, with its name in the library; null while that is not decided
     * @param per what a file is made for
     * @param by the target field whose values make groups, or null
     * @param records how many records a file has at least, or null
     * @param replace whether a file of the same name gives way; otherwise the run fails where there is one
     * @param indented whether elements of XML stand on lines of their own
     * @param lineEnd what ends a line, or null for the usual one of the format
     */
    public record OutFile(
            String root,
            String folder,
            String name,
            Layout layout,
            Per per,
            String by,
            Integer records,
            boolean replace,
            boolean indented,
            LineEnd lineEnd) {

        public OutFile {
            root = root == null ? "" : root.strip();
            folder = folder == null ? "" : folder.strip();
            name = name == null ? "" : name.strip();
            per = per == null ? Per.RUN : per;
            if (!root.isEmpty() && !name.isEmpty()) {
                new FilePattern(root, folder, name).require("delivery.file");
            }
            if (records != null && (records < 1 || records > 10_000_000)) {
                throw new DefinitionException("delivery.file.records", "must be from 1 to 10000000");
            }
        }

        /** How it is written, beyond the layout. */
        public WriteStyle style() {
            return new WriteStyle(indented, lineEnd);
        }

        /** The folder and the name, for people. */
        public String shown() {
            return root + (folder.isEmpty() ? "" : "/" + folder) + "/" + name;
        }
    }

    private static final OutFile NONE = new OutFile(null, null, null, null, null, null, null, false, false, null);

    public FileDelivery {
        file = file == null ? NONE : file;
        record = record == null || record.isBlank() ? null : record.strip();
        stands = stands == null ? Stands.EACH : stands;
    }

    /** The same to files whose names say that they are of another run, which take no other file's place. */
    @Override
    public FileDelivery again() {
        int point = file.name().lastIndexOf('.');
        int at = point <= file.name().lastIndexOf('}') ? file.name().length() : point;
        String name =
                file.name().substring(0, at) + "_again_{run}" + file.name().substring(at);
        return new FileDelivery(
                new OutFile(
                        file.root(),
                        file.folder(),
                        name,
                        file.layout(),
                        file.per(),
                        file.by(),
                        file.records(),
                        false,
                        file.indented(),
                        file.lineEnd()),
                record,
                stands);
    }

    @Override
    public String connection() {
        return "";
    }

    @Override
    public boolean decided() {
        return !file.root().isEmpty() && !file.name().isEmpty() && file.layout() != null && type() >= 0;
    }

    /** The index of the record type in its layout, or -1. */
    public int type() {
        return record == null ? 0 : file.layout().typeIndex(record);
    }

    /** The record type; of a delivery that is decided. */
    public RecordType recordType() {
        return file.layout().recordTypes().get(type());
    }

    @Override
    public String label() {
        return file.name() + (record == null ? "" : " " + record);
    }

    @Override
    public String place() {
        return "file " + file.shown();
    }

    @Override
    public String kind() {
        return "file";
    }

    @Override
    public String placeLabel() {
        return file.name();
    }

    @Override
    public String sort() {
        return "files";
    }
}
