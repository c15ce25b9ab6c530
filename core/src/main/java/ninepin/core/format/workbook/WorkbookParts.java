package ninepin.core.format.workbook;

import com.fasterxml.aalto.stax.InputFactoryImpl;
import java.io.Closeable;
import java.io.FilterInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.zip.ZipEntry;
import java.util.zip.ZipException;
import java.util.zip.ZipFile;
import javax.xml.stream.XMLInputFactory;
import javax.xml.stream.XMLStreamConstants;
import javax.xml.stream.XMLStreamException;
import org.codehaus.stax2.XMLInputFactory2;
import org.codehaus.stax2.XMLStreamReader2;

/**
 * The parts of a workbook in its package (ISO/IEC 29500-2), found by their relationships. Names of elements are compared without
 * their namespaces, since the strict and the transitional form of the standard differ in those only.
 */
final class WorkbookParts implements Closeable {

    /** What parts that are unpacked come to together at most, in bytes. */
    private static final long MOST_UNPACKED = 16L << 30;
    /** So many bytes are unpacked whatever they were packed to. */
    private static final long ALWAYS_UNPACKED = 256L << 20;
    /** What a part grows to at most when it is unpacked, as a multiple. Sheets of equal rows come to some 50. */
    private static final long MOST_GROWTH = 200;

    private static final int MOST_PARTS = 100_000;
    private static final int MOST_RELATIONS = 100_000;

    /**
     * A relationship of a part.
     *
     * @param type the last step of its type, such as {@code worksheet}
     * @param target the part it leads to
     */
    record Relation(String id, String type, String target) {}

    private static final XMLInputFactory PARSERS = parsers();

    private final ZipFile zip;
    /** Names of parts are the same in any case. */
    private final Map<String, ZipEntry> entries = new TreeMap<>();

    private long unpacked;

    WorkbookParts(Path file) throws IOException {
        zip = new ZipFile(file.toFile());
        if (zip.size() > MOST_PARTS) {
            zip.close();
            throw new ZipException("more than " + MOST_PARTS + " parts");
        }
        zip.stream().forEach(e -> entries.put(key(e.getName()), e));
    }

    private static XMLInputFactory parsers() {
        InputFactoryImpl factory = new InputFactoryImpl();
        factory.setProperty(XMLInputFactory.IS_NAMESPACE_AWARE, true);
        factory.setProperty(XMLInputFactory.SUPPORT_DTD, false);
        factory.setProperty(XMLInputFactory.IS_SUPPORTING_EXTERNAL_ENTITIES, false);
        factory.setProperty(XMLInputFactory.IS_COALESCING, false);
        // What is wrong with a text has to be told where it is gone to, not where it is asked for.
        factory.setProperty(XMLInputFactory2.P_LAZY_PARSING, false);
        return factory;
    }

    private static String key(String name) {
        String plain = name.replace('\\', '/');
        return (plain.startsWith("/") ? plain.substring(1) : plain).toLowerCase(Locale.ROOT);
    }

    boolean has(String part) {
        return entries.containsKey(key(part));
    }

    /**
     * Parses a part.
     *
     * @throws ZipException where there is no such part
     */
    XmlPart parse(String part) throws IOException, XMLStreamException {
        InputStream bytes = open(part);
        try {
            return new XmlPart((XMLStreamReader2) PARSERS.createXMLStreamReader(bytes), bytes);
        } catch (XMLStreamException | RuntimeException e) {
            bytes.close();
            throw e;
        }
    }

    private InputStream open(String part) throws IOException {
        ZipEntry entry = entries.get(key(part));
        if (entry == null) {
            throw new ZipException("the part " + part + " is missing");
        }
        return new Bounded(zip.getInputStream(entry), Math.max(1, entry.getCompressedSize()));
    }

    /** The relationships of a part; those of the package where the part is empty. Ones that lead out of the file are left out. */
    List<Relation> relations(String part) throws IOException, XMLStreamException {
        int slash = part.lastIndexOf('/');
        String folder = part.substring(0, slash + 1);
        String own = folder + "_rels/" + part.substring(slash + 1) + ".rels";
        List<Relation> relations = new ArrayList<>();
        if (!has(own)) {
            return relations;
        }
        try (XmlPart xml = parse(own)) {
            while (xml.next() != XMLStreamConstants.END_DOCUMENT && relations.size() < MOST_RELATIONS) {
                String target = xml.starts("Relationship") ? xml.attribute("Target") : null;
                if (target != null && !"External".equals(xml.attribute("TargetMode"))) {
                    String type = Optional.ofNullable(xml.attribute("Type")).orElse("");
                    relations.add(new Relation(
                            xml.attribute("Id"), type.substring(type.lastIndexOf('/') + 1), resolved(folder, target)));
                }
            }
        }
        return relations;
    }

    /** Where a target is, as seen from a folder of the package. It only names a part; nothing is looked for outside. */
    private static String resolved(String folder, String target) {
        List<String> steps = new ArrayList<>();
        String path = target.startsWith("/") ? target : folder + target;
        for (String step : path.split("/")) {
            if (step.equals("..") && !steps.isEmpty()) {
                steps.remove(steps.size() - 1);
            } else if (!step.isEmpty() && !step.equals(".") && !step.equals("..")) {
                steps.add(step);
            }
        }
        return String.join("/", steps);
    }

    @Override
    public void close() throws IOException {
        zip.close();
    }

    /** A file that unpacks to more than a workbook would. */
    static final class TooLarge extends IOException {
        private static final long serialVersionUID = 1L;

        TooLarge(String message) {
            super(message);
        }
    }

    /** Bytes of a part, so many and no more. */
    private final class Bounded extends FilterInputStream {
        private final long packed;
        private long own;

        Bounded(InputStream in, long packed) {
            super(in);
            this.packed = packed;
        }

        @Override
        public int read() throws IOException {
            byte[] one = new byte[1];
            return read(one, 0, 1) < 0 ? -1 : one[0] & 0xff;
        }

        @Override
        public int read(byte[] into, int offset, int length) throws IOException {
            int n = super.read(into, offset, length);
            own += Math.max(0, n);
            unpacked += Math.max(0, n);
            if (own > ALWAYS_UNPACKED && own / packed > MOST_GROWTH) {
                throw new TooLarge(
                        "a part of " + packed + " bytes unpacks to more than " + MOST_GROWTH + " times as many");
            }
            if (unpacked > MOST_UNPACKED) {
                throw new TooLarge("its parts unpack to more than " + (MOST_UNPACKED >> 30) + " GiB");
            }
            return n;
        }
    }
}
