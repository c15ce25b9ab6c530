package ninepin.server.cli;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import ninepin.core.codes.CodeList;
import ninepin.core.codes.CodeTables;
import ninepin.core.deliver.TargetException;
import ninepin.core.job.Definitions;
import ninepin.core.job.Job;
import ninepin.core.layout.Layout;
import ninepin.server.codes.CodeQuery;

/**
 * A job, and what stands beside it.
 *
 * @param path the job's JSON file
 * @param layoutPath the layout's; null for the one beside the job
 * @param codesFolder where code lists are; null for the folder of the job
 */
record JobFiles(Path path, Path layoutPath, Path codesFolder) {

    Job job() throws IOException {
        return Definitions.job(Files.readString(path));
    }

    Layout layout(Job job) throws IOException {
        return Definitions.layout(
                Files.readString(layoutPath != null ? layoutPath : beside(job.layout() + ".layout.json")));
    }

    /** A file or folder beside the job. */
    Path beside(String name) {
        return path.toAbsolutePath().resolveSibling(name);
    }

    /** The code lists that the job names, from their files; those of a query with what it gives now. */
    CodeTables codes(Job job, FileSettings settings) throws IOException, TargetException {
        List<CodeList> lists = new ArrayList<>();
        for (String name : job.codeLists()) {
            lists.add(list(name, settings));
        }
        return CodeTables.of(lists);
    }

    /** A code list from its file; one of a query with what it gives now. */
    CodeList list(String name, FileSettings settings) throws IOException, TargetException {
        String file = name + ".codes.json";
        CodeList list =
                Definitions.codeList(Files.readString(codesFolder != null ? codesFolder.resolve(file) : beside(file)));
        return list.query() == null
                ? list
                : CodeQuery.filled(list, settings.connection(list.query().connection()));
    }
}
