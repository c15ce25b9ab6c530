package ninepin.server.layouts;

import java.io.IOException;
import java.io.InputStream;
import java.util.List;
import ninepin.core.infer.Proposal;
import ninepin.core.infer.Proposer;
import ninepin.core.job.Definitions;
import ninepin.core.source.MemorySource;
import ninepin.server.api.Problems;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import org.springframework.web.multipart.MultipartFile;
import tools.jackson.databind.JsonNode;

@RestController
class ProposalController {

    /** A layout proposed from a sample, as the schema in docs/schema describes it, and what stands behind it. */
    record ProposalView(JsonNode layout, List<Proposal.Guess> guesses, List<Proposal.FieldProfile> fields) {}

    @PostMapping("/api/layouts/proposal")
    ProposalView propose(
            @RequestParam MultipartFile file, @RequestParam String name, @RequestParam(required = false) String title)
            throws IOException {
        if (file.isEmpty()) {
            throw Problems.unprocessable("The sample is empty: there is nothing to propose a layout from.");
        }
        byte[] start;
        try (InputStream in = file.getInputStream()) {
            start = in.readNBytes(Proposer.MOST_BYTES);
        }
        Proposal proposal = Proposer.of(new MemorySource(start), name, title);
        return new ProposalView(
                Definitions.mapper().valueToTree(proposal.layout()), proposal.guesses(), proposal.fields());
    }
}
