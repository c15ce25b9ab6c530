package ninepin.server.layouts;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.time.LocalDate;
import java.util.Map;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import ninepin.core.format.Formats;
import ninepin.core.format.MadeUpSample;
import ninepin.core.format.json.schema.JsonSchemaOfLayout;
import ninepin.core.format.xml.proposer.SchemaOfLayout;
import ninepin.core.job.Definitions;
import ninepin.core.layout.Layout;
import ninepin.core.value.UnwritableException;
import ninepin.server.api.Problems;
import org.springframework.http.ContentDisposition;
import org.springframework.http.HttpHeaders;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** What a layout gives away: its definition, a file that it fits, its schema. */
@RestController
@RequestMapping("/api/v1/layouts/{layout}")
class LayoutDownloads {

    private final LayoutLibrary library;
    private final Clock clock;

    LayoutDownloads(LayoutLibrary library, Clock clock) {
        this.library = library;
        this.clock = clock;
    }

    /** The draft as it is written in files, fit for version control. */
    @GetMapping("/definition")
    ResponseEntity<byte[]> definition(@PathVariable("layout") String name) {
        byte[] text = Definitions.write(layout(name)).getBytes(StandardCharsets.UTF_8);
        return bytes(name + ".layout.json", MediaType.APPLICATION_JSON, text);
    }

    /** A made-up file. */
    @GetMapping("/made-up")
    ResponseEntity<byte[]> madeUp(@PathVariable("layout") String name) throws IOException {
        Layout layout = layout(name);
        byte[] file;
        try {
            file = MadeUpSample.of(layout, LocalDate.ofInstant(clock.instant(), clock.getZone()));
        } catch (UnwritableException e) {
            throw Problems.unprocessable("No sample can be made up: " + e.getMessage() + ".");
        }
        return bytes(name + ".sample" + Formats.of(layout).ending(), MediaType.APPLICATION_OCTET_STREAM, file);
    }

    /** The JSON Schema of a JSON layout. */
    @GetMapping("/json-schema")
    ResponseEntity<byte[]> jsonSchema(@PathVariable("layout") String name) {
        byte[] text = JsonSchemaOfLayout.write(layout(name)).getBytes(StandardCharsets.UTF_8);
        return bytes(name + ".schema.json", MediaType.parseMediaType("application/schema+json"), text);
    }

    /** The schema of an XML layout; several documents in a ZIP where it has several namespaces. */
    @GetMapping("/xsd")
    ResponseEntity<byte[]> xsd(@PathVariable("layout") String name) throws IOException {
        Map<String, String> files = SchemaOfLayout.write(layout(name));
        Map.Entry<String, String> first = files.entrySet().iterator().next();
        if (files.size() == 1) {
            return bytes(
                    first.getKey(), MediaType.APPLICATION_XML, first.getValue().getBytes(StandardCharsets.UTF_8));
        }
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        try (ZipOutputStream zip = new ZipOutputStream(out)) {
            for (Map.Entry<String, String> file : files.entrySet()) {
                zip.putNextEntry(new ZipEntry(file.getKey()));
                zip.write(file.getValue().getBytes(StandardCharsets.UTF_8));
                zip.closeEntry();
            }
        }
        return bytes(name + "-xsd.zip", MediaType.parseMediaType("application/zip"), out.toByteArray());
    }

    private Layout layout(String name) {
        return Definitions.layout(library.get(name).draft());
    }

    private static ResponseEntity<byte[]> bytes(String file, MediaType type, byte[] bytes) {
        ContentDisposition attachment =
                ContentDisposition.attachment().filename(file).build();
        return ResponseEntity.ok()
                .header(HttpHeaders.CONTENT_DISPOSITION, attachment.toString())
                .contentType(type)
                .body(bytes);
    }
}
