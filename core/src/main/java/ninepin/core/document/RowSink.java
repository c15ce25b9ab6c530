package ninepin.core.document;

import ninepin.core.shape.RowBuffer;

/** Where the rows of documents go. */
public interface RowSink {

    /** The buffer that the rows of a delivery are written to. */
    RowBuffer rows(int delivery);

    /**
     * Told that the row that was just written to a delivery was made of a record.
     *
     * @param record the index of the record in its document
     */
    void made(int delivery, int record);

    /** Where the rows of some deliveries go that nobody wants. */
    static RowSink nowhere(int deliveries) {
        RowBuffer[] buffers = new RowBuffer[deliveries];
        java.util.Arrays.setAll(buffers, d -> new RowBuffer());
        return new RowSink() {
            @Override
            public RowBuffer rows(int delivery) {
                return buffers[delivery];
            }

            @Override
            public void made(int delivery, int record) {
                buffers[delivery].clear();
            }
        };
    }
}
