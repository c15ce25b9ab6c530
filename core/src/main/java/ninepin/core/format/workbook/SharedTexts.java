package ninepin.core.format.workbook;

import java.io.BufferedOutputStream;
import java.io.Closeable;
import java.io.DataOutputStream;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.List;
import javax.xml.stream.XMLStreamConstants;
import javax.xml.stream.XMLStreamException;

/**
 * The texts that cells of a workbook share (ISO/IEC 29500-1, 18.4), as they are written in a transcript. They are kept in files that
 * are mapped, since there may be more of them than memory holds.
 */
final class SharedTexts implements Closeable {

    /** A mapped stretch of the texts; none is longer than a buffer can be. */
    private static final long STRETCH = 1L << 30;

    private static final int MOST = 100_000_000;
    /** Where a text starts, eight bytes for each, and where the last one ends. */
    private static final int ENTRY = Long.BYTES;

    private final Path texts;
    private final Path index;
    private final List<ByteBuffer> mapped = new ArrayList<>();
    private final List<ByteBuffer> starts = new ArrayList<>();
    private long count;

    private SharedTexts(Path folder) throws IOException {
        texts = Files.createTempFile(folder, "texts", ".part");
        index = Files.createTempFile(folder, "index", ".part");
    }

    /** A workbook without shared texts. */
    static SharedTexts none(Path folder) throws IOException {
        return new SharedTexts(folder);
    }

    /**
     * Reads the texts.
     *
     * @param folder where the files go
     */
    static SharedTexts read(XmlPart xml, Path folder) throws IOException, XMLStreamException {
        SharedTexts shared = new SharedTexts(folder);
        try {
            shared.fill(xml);
            return shared;
        } catch (IOException | XMLStreamException | RuntimeException e) {
            shared.close();
            throw e;
        }
    }

    private void fill(XmlPart xml) throws IOException, XMLStreamException {
        CharBuffer text = new CharBuffer();
        RowBytes written = new RowBytes();
        long at = 0;
        try (BufferedOutputStream to = new BufferedOutputStream(Files.newOutputStream(texts), 1 << 18);
                DataOutputStream places =
                        new DataOutputStream(new BufferedOutputStream(Files.newOutputStream(index), 1 << 16))) {
            for (int event = xml.next(); event != XMLStreamConstants.END_DOCUMENT; event = xml.next()) {
                if (event != XMLStreamConstants.START_ELEMENT || !xml.name().equals("si")) {
                    continue;
                }
                if (++count > MOST) {
                    throw new XMLStreamException("more than " + MOST + " shared texts");
                }
                text.clear();
                rich(xml, "si", text);
                written.clear();
                written.addQuoted(text.chars, text.length);
                places.writeLong(at);
                to.write(written.bytes, 0, written.length);
                at += written.length;
            }
            places.writeLong(at);
        }
        map(texts, STRETCH, mapped);
        map(index, STRETCH, starts);
    }

    /** Reads a text to the end of its element: its runs one behind the other, without what says how it is pronounced. */
    static void rich(XmlPart xml, String element, CharBuffer text) throws XMLStreamException {
        boolean ofText = false;
        int phonetic = 0;
        while (true) {
            int event = xml.next();
            if (event == XMLStreamConstants.CHARACTERS
                    || event == XMLStreamConstants.CDATA
                    || event == XMLStreamConstants.SPACE) {
                if (ofText && phonetic == 0) {
                    xml.appendTo(text);
                }
            } else if (event == XMLStreamConstants.START_ELEMENT) {
                ofText = xml.name().equals("t");
                phonetic += xml.name().equals("rPh") ? 1 : 0;
            } else if (event == XMLStreamConstants.END_ELEMENT) {
                ofText = false;
                phonetic -= xml.name().equals("rPh") ? 1 : 0;
                if (xml.name().equals(element)) {
                    unescape(text);
                    return;
                }
            } else if (event == XMLStreamConstants.END_DOCUMENT) {
                return;
            }
        }
    }

    /** Characters that XML does not have stand as {@code _x000D_} (ST_Xstring, 22.9.2.19). */
    static void unescape(CharBuffer text) {
        int to = 0;
        for (int i = 0; i < text.length; i++) {
            char c = text.chars[i];
            if (c == '_' && i + 6 < text.length && text.chars[i + 1] == 'x' && text.chars[i + 6] == '_') {
                int code = hexadecimal(text.chars, i + 2);
                if (code >= 0) {
                    c = (char) code;
                    i += 6;
                }
            }
            text.chars[to++] = c;
        }
        text.length = to;
    }

    private static int hexadecimal(char[] chars, int from) {
        int code = 0;
        for (int i = from; i < from + 4; i++) {
            int digit = Character.digit(chars[i], 16);
            if (digit < 0) {
                return -1;
            }
            code = code * 16 + digit;
        }
        return code;
    }

    private static void map(Path file, long stretch, List<ByteBuffer> into) throws IOException {
        try (FileChannel channel = FileChannel.open(file, StandardOpenOption.READ)) {
            for (long from = 0; from < channel.size(); from += stretch) {
                into.add(channel.map(FileChannel.MapMode.READ_ONLY, from, Math.min(stretch, channel.size() - from)));
            }
        }
    }

    /** Adds a text by its number, from 0; false where there is none. */
    boolean add(long number, RowBytes to) {
        if (number < 0 || number >= count) {
            return false;
        }
        long from = start(number);
        int rest = (int) (start(number + 1) - from);
        while (rest > 0) {
            ByteBuffer stretch = mapped.get((int) (from / STRETCH));
            int at = (int) (from % STRETCH);
            int some = Math.min(rest, stretch.limit() - at);
            to.add(stretch, at, some);
            rest -= some;
            from += some;
        }
        return true;
    }

    private long start(long number) {
        long at = number * ENTRY;
        return starts.get((int) (at / STRETCH)).getLong((int) (at % STRETCH));
    }

    @Override
    public void close() throws IOException {
        mapped.clear();
        starts.clear();
        Files.deleteIfExists(texts);
        Files.deleteIfExists(index);
    }
}
