package ninepin.core.destination.support;

import java.io.IOException;
import java.nio.charset.Charset;
import java.nio.file.Path;
import java.util.List;
import ninepin.core.deliver.Places;
import ninepin.core.deliver.TargetException;
import ninepin.core.deliver.file.WrittenFile;
import ninepin.core.layout.Layout;

/** A place of files, which can be looked at. */
public interface WritesFiles extends DestinationSupport {

    /** The folder, as people call it. */
    String folderLabel();

    /** The root folder, by its name, and the folder below it. */
    String root();

    String folder();

    /**
     * Where its files are written.
     *
     * @param files where the run keeps its mark
     */
    Path folder(Places places, Path files) throws TargetException;

    /** Whether a file of the same name gives way. */
    boolean replaces();

    /** The charset that the files are in. */
    Charset charset();

    /** The layout by which the files are written. */
    Layout layout();

    /**
     * What a run has written there.
     *
     * @param files where the run keeps its mark
     */
    List<WrittenFile> written(Path files) throws IOException;
}
