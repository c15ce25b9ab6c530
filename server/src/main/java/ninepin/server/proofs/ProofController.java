package ninepin.server.proofs;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.security.Principal;
import java.util.List;
import ninepin.server.proofs.Proofs.ProofView;
import org.springframework.http.ContentDisposition;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

@RestController
@RequestMapping("/api/v1/jobs/{job}/proofs")
class ProofController {

    private final Proofs proofs;

    ProofController(Proofs proofs) {
        this.proofs = proofs;
    }

    /** Proves the draft. */
    @GetMapping
    List<ProofView> prove(@PathVariable String job) {
        return proofs.prove(job);
    }

    /** Makes a proof of the sample and of what the draft makes of it. */
    @PostMapping
    @ResponseStatus(HttpStatus.CREATED)
    ProofView make(@PathVariable String job, @RequestParam String name, Principal who) throws IOException {
        return proofs.make(job, name, who.getName());
    }

    /** Takes what the draft makes of the sample now as what it should make. */
    @PostMapping("/{proof}/accept")
    ProofView accept(@PathVariable String job, @PathVariable("proof") String name, Principal who) throws IOException {
        return proofs.accept(job, name, who.getName());
    }

    /** Deletes a proof. */
    @DeleteMapping("/{proof}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void delete(@PathVariable String job, @PathVariable("proof") String name) throws IOException {
        proofs.delete(job, name);
    }

    /** The job with its layout, code lists and proofs, for {@code ninepin prove}. */
    @GetMapping(path = "/archive", produces = "application/zip")
    ResponseEntity<byte[]> archive(@PathVariable String job) throws IOException {
        ByteArrayOutputStream bytes = new ByteArrayOutputStream();
        proofs.write(job, bytes);
        String name =
                ContentDisposition.attachment().filename(job + ".zip").build().toString();
        return ResponseEntity.ok().header(HttpHeaders.CONTENT_DISPOSITION, name).body(bytes.toByteArray());
    }
}
