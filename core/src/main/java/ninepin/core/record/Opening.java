package ninepin.core.record;

import java.io.IOException;
import java.nio.charset.Charset;
import java.util.List;
import java.util.Optional;
import java.util.stream.IntStream;
import ninepin.core.bytes.ByteSource;
import ninepin.core.layout.Layout;

/** A file whose start has been read by its layout: what keeps it from being read on, and readers of its records. */
public interface Opening {

    /** The layout by which it was opened. */
    Layout layout();

    /** What keeps the file from being read, or null. */
    Fault fault();

    /** What is to be said of the start of the file without stopping for it. */
    default List<Fault> notes() {
        return List.of();
    }

    /** The encoding in which records are held. */
    default Charset charset() {
        return layout().format().charset().held().charset();
    }

    /** Where the first record starts. */
    Position body();

    /** Where the header row starts, or would; the place of {@link #fault()}. */
    default Position header() {
        return body();
    }

    /** The place of {@link #fault()} and of {@link #notes()}, as people find it. */
    default Locator locator() {
        return Locator.line(header().line());
    }

    /** The names in the header row; empty where there is none. */
    default List<String> columns() {
        return List.of();
    }

    /**
     * Which slice of a record holds each field of a type.
     *
     * @param type the index of the record type
     */
    default int[] slices(int type) {
        return IntStream.range(0, layout().recordTypes().get(type).fields().size())
                .toArray();
    }

    /** How values stand in their slices. */
    default ValueForm values() {
        return ValueForm.PLAIN;
    }

    /** How many slices a record of a type has to have, or -1 where the reader sees to that. */
    default int width(int type) {
        return -1;
    }

    /**
     * Reads records from a place on. The source is borrowed: it has to stay open as long as the reader is used, and is closed
     * by whoever opened it.
     *
     * @param source the file
     * @param from a place behind a record, or {@link #body()}
     */
    RecordReader reader(ByteSource source, Position from) throws IOException;

    /**
     * Places at which the file may be cut so that its pieces can be read side by side: each one where a record begins
     * that belongs to no other, as far as can be seen from there. None where this kind of file cannot be cut.
     *
     * @param pieces how many pieces are wanted
     */
    default long[] cuts(ByteSource source, int pieces) throws IOException {
        return new long[0];
    }

    /**
     * Reads the lines of the file from its start, whatever they are, so that those before the first record can be shown. None
     * where lines mean nothing.
     */
    default Optional<RecordReader> lines(ByteSource source) {
        return Optional.empty();
    }

    /** Reads what is written as records are from a place on, whatever it is: a header row, a file that its layout does not fit. */
    default Optional<RecordReader> rows(ByteSource source, Position from) {
        return Optional.empty();
    }

    /**
     * Reads a piece. A reader that comes upon what would make a later cut wrong ends early.
     *
     * @param source the file, which is borrowed
     * @param from where the piece starts: one of the {@link #cuts}, or the {@link #body()}
     * @param last whether no cut follows
     */
    default Piece piece(ByteSource source, long from, boolean last) throws IOException {
        boolean first = from == body().offset();
        return new Piece(reader(source, first ? body() : new Position(from, 1, 1)), 0);
    }
}
