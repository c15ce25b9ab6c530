package ninepin.server.jobs;

import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import ninepin.core.job.Definitions;
import ninepin.core.layout.DefinitionException;
import ninepin.server.codes.CodeUse;
import ninepin.server.jobs.JobMapper.JobRow;
import ninepin.server.jobs.JobMapper.VersionRow;
import org.springframework.stereotype.Component;

/** Tells which jobs name a code list, in their draft or their live version. */
@Component
class JobsOfCodeList implements CodeUse {

    private final JobMapper jobs;

    JobsOfCodeList(JobMapper jobs) {
        this.jobs = jobs;
    }

    @Override
    public List<String> jobsNaming(String list) {
        return jobs.all().stream()
                .filter(j -> definitions(j).anyMatch(d -> names(d, list)))
                .map(JobRow::name)
                .toList();
    }

    private Stream<String> definitions(JobRow row) {
        Optional<String> live = row.liveVersion() == null
                ? Optional.empty()
                : jobs.version(row.id(), row.liveVersion()).map(VersionRow::definition);
        return Stream.concat(Stream.of(row.draft()), live.stream());
    }

    private static boolean names(String definition, String list) {
        try {
            return definition.contains(list)
                    && Definitions.job(definition).codeLists().stream().anyMatch(list::equalsIgnoreCase);
        } catch (DefinitionException e) {
            return false;
        }
    }
}
