package ninepin.server.layouts;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.UnsupportedEncodingException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import ninepin.core.bytes.ByteSource;
import ninepin.core.bytes.Bytes;
import ninepin.core.bytes.MemorySource;
import ninepin.core.format.Proposals;
import ninepin.core.format.delimited.HeaderRow;
import ninepin.core.format.fixedlength.copybook.CopybookLayout;
import ninepin.core.format.json.schema.JsonSchemaLayout;
import ninepin.core.format.xml.proposer.ElementTree;
import ninepin.core.format.xml.proposer.SchemaLayout;
import ninepin.core.infer.Proposal;
import ninepin.core.infer.Samples;
import ninepin.core.job.Definitions;
import ninepin.core.layout.FileCharset;
import ninepin.core.layout.SchemaDocument;
import ninepin.server.api.Problems;
import ninepin.server.config.FileNames;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import org.springframework.web.multipart.MultipartFile;
import tools.jackson.databind.JsonNode;

/** Proposes layouts from samples, schemas, copybooks and header rows. */
@RestController
@RequestMapping("/api/v1/layouts")
class ProposalController {

    /** What was seen of a field; {@code choices} are types as the schema in docs/schema describes them. */
    record FieldProposal(
            String recordType,
            String name,
            List<JsonNode> choices,
            String sureness,
            String note,
            int values,
            int blank,
            int distinct,
            String smallest,
            String largest,
            List<String> misfits,
            boolean likelyKey,
            List<String> likelyCodes) {

        static FieldProposal of(Proposal.FieldProfile f) {
            return new FieldProposal(
                    f.recordType(),
                    f.name(),
                    f.choices().stream()
                            .map(t -> (JsonNode) Definitions.mapper().valueToTree(t))
                            .toList(),
                    f.sureness().toString(),
                    f.note(),
                    f.values(),
                    f.blank(),
                    f.distinct(),
                    f.smallest(),
                    f.largest(),
                    f.misfits(),
                    f.likelyKey(),
                    f.likelyCodes());
        }
    }

    /** A proposed layout, as the schema in docs/schema describes it, and what stands behind it. */
    record ProposalView(
            JsonNode layout,
            List<Proposal.Guess> guesses,
            List<FieldProposal> fields,
            List<Proposal.Alternative> alternatives) {

        static ProposalView of(Proposal p) {
            return new ProposalView(
                    Definitions.mapper().valueToTree(p.layout()),
                    p.guesses(),
                    p.fields().stream().map(FieldProposal::of).toList(),
                    p.alternatives());
        }
    }

    /** What a layout is proposed from, other than a sample. */
    enum From {
        xsd,
        copybook,
        header,
        schema
    }

    private static final int MOST_FILES = 60;
    /** The most bytes of all files that are looked at together. */
    private static final int MOST_TOGETHER = 24 << 20;
    /** The most bytes of a schema document or a copybook, which is read whole. */
    private static final int MOST_DESCRIPTION = 4 << 20;

    /** How a ZIP archive begins, such as a workbook. */
    private static final byte[] PACKAGE = {'P', 'K', 3, 4};

    private static final Pattern SCHEMA = Pattern.compile("<(?:[\\w.-]+:)?schema[\\s>]");
    private static final Pattern ENCODING = Pattern.compile("<\\?xml[^>]*encoding=[\"']([\\w.-]+)[\"']");

    /** Proposes a layout from samples, and says how sure each part of it is. */
    @PostMapping("/proposal")
    ProposalView propose(
            @RequestParam("file") List<MultipartFile> files,
            @RequestParam String name,
            @RequestParam(required = false) String title)
            throws IOException {
        List<ByteSource> samples = new ArrayList<>();
        for (byte[] start : read(files, Samples.MOST_BYTES)) {
            samples.add(new MemorySource(start));
        }
        return ProposalView.of(Proposals.of(samples, name, title));
    }

    /**
     * Proposes a layout from a description: XML schemas or a COBOL copybook, with a sample or without; a JSON Schema, or an OpenAPI
     * document of whose operations one is taken.
     */
    @PostMapping("/import")
    ProposalView importFrom(
            @RequestParam("file") List<MultipartFile> files,
            @RequestParam From from,
            @RequestParam String name,
            @RequestParam(required = false) String title,
            @RequestParam(defaultValue = "") String charset,
            @RequestParam(defaultValue = "") String taken)
            throws IOException {
        List<byte[]> texts = read(files, MOST_DESCRIPTION + 1);
        for (int i = 0; i < texts.size(); i++) {
            if (texts.get(i).length > MOST_DESCRIPTION) {
                throw Problems.unprocessable("The file " + files.get(i).getOriginalFilename() + " is larger than "
                        + (MOST_DESCRIPTION >> 20) + " MiB, which is more than a description may have.");
            }
        }
        Set<String> choices =
                Arrays.stream(taken.split(",")).filter(t -> !t.isBlank()).collect(Collectors.toSet());
        return ProposalView.of(
                switch (from) {
                    case xsd -> ofSchema(files, texts, choices, name, title);
                    case header -> HeaderRow.propose(text(texts.get(0)), name, title);
                    case schema -> JsonSchemaLayout.propose(text(texts.get(0)), choices, name, title);
                    case copybook -> CopybookLayout.propose(text(texts.get(0)), charset(charset), choices, name, title);
                });
    }

    /** A layout of schema documents; where a document of theirs is among the files, of what that uses. */
    private static Proposal ofSchema(
            List<MultipartFile> files, List<byte[]> texts, Set<String> choices, String name, String title)
            throws IOException {
        List<SchemaDocument> documents = new ArrayList<>();
        ElementTree sample = null;
        for (int i = 0; i < texts.size(); i++) {
            String file = FileNames.plain(files.get(i).getOriginalFilename(), "schema.xsd");
            String text = schemaText(texts.get(i));
            if (file.toLowerCase(Locale.ROOT).endsWith(".xml")
                    && !SCHEMA.matcher(text).find()) {
                sample = ElementTree.of(new ByteArrayInputStream(texts.get(i)), Map.of(), Samples.MOST_BYTES);
            } else {
                documents.add(new SchemaDocument(file, text));
            }
        }
        if (documents.isEmpty()) {
            throw Problems.unprocessable("There is no schema among the files.");
        }
        return SchemaLayout.propose(documents, sample, choices, name, title);
    }

    private static FileCharset charset(String label) {
        return Arrays.stream(FileCharset.values())
                .filter(c -> c.label().equals(label))
                .findFirst()
                .orElse(FileCharset.IBM_037);
    }

    /** A schema in the encoding that its declaration or its first bytes tell. */
    private static String schemaText(byte[] bytes) {
        String start = new String(bytes, 0, Math.min(bytes.length, 200), StandardCharsets.ISO_8859_1);
        Matcher declared = ENCODING.matcher(start);
        try {
            String name = start.startsWith("\u00fe\u00ff") || start.startsWith("\u00ff\u00fe")
                    ? "UTF-16"
                    : declared.find() ? declared.group(1) : "UTF-8";
            String text = new String(bytes, name);
            return text.startsWith("\ufeff") ? text.substring(1) : text;
        } catch (UnsupportedEncodingException e) {
            throw Problems.unprocessable("The schema declares an encoding that is not known: " + e.getMessage() + ".");
        }
    }

    private static String text(byte[] bytes) {
        return new String(bytes, StandardCharsets.UTF_8);
    }

    private static List<byte[]> read(List<MultipartFile> files, int most) throws IOException {
        if (files.size() > MOST_FILES) {
            throw Problems.unprocessable("At most " + MOST_FILES + " files are looked at together.");
        }
        List<byte[]> starts = new ArrayList<>();
        int left = MOST_TOGETHER;
        for (MultipartFile file : files) {
            try (InputStream in = file.getInputStream()) {
                byte[] start = in.readNBytes(PACKAGE.length);
                // Of a package the start tells nothing.
                int wanted = Arrays.equals(start, PACKAGE) ? MOST_TOGETHER : most;
                starts.add(Bytes.joined(start, in.readNBytes(Math.max(0, Math.min(wanted, left + 1) - start.length))));
            }
            left -= starts.get(starts.size() - 1).length;
            if (left < 0) {
                throw Problems.unprocessable(
                        "Together the files have more than " + (MOST_TOGETHER >> 20) + " MiB; give fewer at a time.");
            }
            if (starts.get(starts.size() - 1).length == 0) {
                throw Problems.unprocessable("The file " + file.getOriginalFilename()
                        + " is empty: there is nothing to propose a layout from.");
            }
        }
        return starts;
    }
}
