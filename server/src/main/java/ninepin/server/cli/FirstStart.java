package ninepin.server.cli;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.List;
import ninepin.core.bytes.FlatFolder;
import ninepin.core.codes.CodeList;
import ninepin.core.codes.CodeTables;
import ninepin.core.deliver.TargetException;
import ninepin.core.job.Definitions;
import ninepin.core.job.Job;

/**
 * What a run took at its first start beside its file: the moment, and the code lists. A restart goes on with the same, on
 * whatever day it comes and whatever the lists say by then.
 */
final class FirstStart {

    private static final String MOMENT = "started";
    private static final String LIST = ".codes.json";

    private final Path folder;

    /**
     * @param folder where it is kept; made when it is needed
     */
    FirstStart(Path folder) {
        this.folder = folder;
    }

    /** When the run started first, to the second. */
    LocalDateTime moment() throws IOException {
        Path kept = folder.resolve(MOMENT);
        if (!Files.exists(kept)) {
            keep(MOMENT, LocalDateTime.now().withNano(0).toString());
        }
        return LocalDateTime.parse(Files.readString(kept).strip());
    }

    /** The code lists of the job. */
    CodeTables codes(JobFiles files, Job job, FileSettings settings) throws IOException, TargetException {
        List<CodeList> lists = new ArrayList<>();
        for (String name : job.codeLists()) {
            Path kept = folder.resolve(name + LIST);
            if (!Files.exists(kept)) {
                keep(name + LIST, Definitions.write(files.list(name, settings)));
            }
            lists.add(Definitions.codeList(Files.readString(kept)));
        }
        return CodeTables.of(lists);
    }

    private void keep(String name, String text) throws IOException {
        Files.createDirectories(folder);
        Path part = folder.resolve(name + ".part");
        Files.writeString(part, text);
        Files.move(part, folder.resolve(name), StandardCopyOption.ATOMIC_MOVE, StandardCopyOption.REPLACE_EXISTING);
    }

    /** Forgets it. */
    void remove() throws IOException {
        FlatFolder.remove(folder);
    }
}
