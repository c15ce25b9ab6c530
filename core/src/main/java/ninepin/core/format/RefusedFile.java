package ninepin.core.format;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.Charset;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import ninepin.core.bytes.ByteSource;
import ninepin.core.bytes.Bytes;
import ninepin.core.bytes.FileSource;
import ninepin.core.layout.Layout;
import ninepin.core.layout.Recognition;
import ninepin.core.layout.RecordType;
import ninepin.core.record.FormatSupport;

/**
 * A file of records that were refused, corrected or not, in the layout they came in: behind the head of their own file,
 * with nothing of it left between them. It is read by {@link #layout the same layout} without what only holds of the whole
 * file.
 */
public final class RefusedFile {

    /** Stand in no file as tags. */
    private static final String NEVER_FIRST = "\u0001";

    private static final String NEVER_LAST = "\u0002";

    private final FormatSupport format;
    private final FormatSupport.Frame frame;

    private RefusedFile(FormatSupport format, FormatSupport.Frame frame) {
        this.format = format;
        this.frame = frame;
    }

    /**
     * The layout that reads such a file: without checks of the whole file, without a number of documents that has to be
     * there, and without records that are known by being the first or the last of their file.
     */
    public static Layout layout(Layout of) {
        Recognition.Tag tag = of.recordTypes().stream()
                .map(RecordType::when)
                .filter(Recognition.Tag.class::isInstance)
                .map(Recognition.Tag.class::cast)
                .findFirst()
                .orElse(null);
        List<RecordType> types = new ArrayList<>();
        for (RecordType type : of.recordTypes()) {
            boolean byPlace =
                    type.when() instanceof Recognition.FirstLine || type.when() instanceof Recognition.LastLine;
            Recognition when = byPlace && tag != null
                    ? new Recognition.Tag(
                            tag.column(),
                            tag.start(),
                            List.of(never(type.when())
                                    .repeat(tag.values().get(0).length())))
                    : type.when();
            boolean top = type.parent() == null;
            types.add(new RecordType(
                    type.name(), when, type.parent(), top ? null : type.min(), top ? null : type.max(), type.fields()));
        }
        return new Layout(of.name(), of.title(), Formats.of(of).ofParts(), types, List.of());
    }

    private static String never(Recognition byPlace) {
        return byPlace instanceof Recognition.FirstLine ? NEVER_FIRST : NEVER_LAST;
    }

    /**
     * Files for the records of one file.
     *
     * @param layout the layout they came in
     * @param original their file, for its head; null where it is gone, and then the head is made of the layout
     */
    public static RefusedFile like(Layout layout, ByteSource original) throws IOException {
        FormatSupport format = Formats.of(layout);
        return new RefusedFile(format, format.frame(original));
    }

    /** Files for the records of a file on disk, which may be gone. */
    public static RefusedFile like(Layout layout, Path original, Transcripts transcripts) throws IOException {
        if (!Files.isRegularFile(original)) {
            return like(layout, (ByteSource) null);
        }
        try (FileSource source = transcripts.open(original, layout)) {
            return like(layout, source);
        }
    }

    /** The text of a record as it is kept, of so many bytes at most. */
    public String text(byte[] record, int most) {
        return new String(record, 0, Math.min(record.length, most), format.keptCharset());
    }

    /** A part of a text, in UTF-16 units. */
    public record Place(int from, int to) {}

    /**
     * Where bytes of a record stand in its text.
     *
     * @param record the record as it is kept
     * @param from the first of the bytes, counted in the record's own file from the record's start
     * @param length how many they are there
     */
    public Place place(byte[] record, long from, int length) {
        Charset original = frame.charset();
        byte[] inFile = Bytes.transcribed(record, format.keptCharset(), original);
        int first = (int) Math.max(0, Math.min(from, inFile.length));
        int last = (int) Math.max(first, Math.min((long) first + length, inFile.length));
        int before = new String(inFile, 0, first, original).length();
        return new Place(before, before + new String(inFile, first, last - first, original).length());
    }

    /** Bytes as they stand in the records' own file, in the charset in which rejects are kept. */
    public byte[] kept(byte[] fileBytes) {
        return Bytes.transcribed(fileBytes, frame.charset(), format.keptCharset());
    }

    /**
     * The file.
     *
     * @param records their bytes, without what ends them
     */
    public byte[] of(List<byte[]> records) {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        out.writeBytes(frame.head());
        byte[] end = format.recordEnd(FormatSupport.USUAL_END).getBytes(format.keptCharset());
        for (byte[] record : records) {
            out.writeBytes(record);
            out.writeBytes(end);
        }
        out.writeBytes(frame.foot());
        return out.toByteArray();
    }
}
