package ninepin.core.layout;

/** How a file is written. One implementation for each kind of file. */
public sealed interface Format permits Delimited, FixedLength, Xml {

    /** The character encoding of the file's bytes. */
    FileCharset charset();

    /** What happens to records in which nothing stands. */
    Delimited.BlankRows blankRows();
}
