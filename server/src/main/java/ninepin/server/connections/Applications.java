package ninepin.server.connections;

import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.util.List;
import ninepin.core.deliver.ApplicationAddress;
import ninepin.core.deliver.Authentication;
import ninepin.core.deliver.TargetException;
import ninepin.core.deliver.application.Describing;
import ninepin.core.deliver.application.OpenApi;
import ninepin.core.deliver.application.Operation;
import ninepin.server.api.Problems;
import ninepin.server.config.Folders;
import ninepin.server.security.Seal;
import org.springframework.stereotype.Component;
import org.springframework.web.ErrorResponseException;

/** Those of the connections that lead to applications: how they are reached, and what they say they take. */
@Component
class Applications {

    private final ConnectionMapper mapper;
    private final Seal seal;
    private final Folders folders;
    private final KeptSecret secrets;

    Applications(ConnectionMapper mapper, Seal seal, Folders folders, KeptSecret secrets) {
        this.secrets = secrets;
        this.mapper = mapper;
        this.seal = seal;
        this.folders = folders;
    }

    /** What an application takes: as it is given, as the application says itself, or as it is kept. */
    String description(String name, Connections.ConnectionInput in) {
        if (in.description() != null && !in.description().isBlank()) {
            return in.description();
        }
        if (in.descriptionPath() != null && !in.descriptionPath().isBlank()) {
            try {
                return Describing.fetch(address(name, in), in.descriptionPath());
            } catch (TargetException e) {
                throw Problems.unprocessable(e.getMessage());
            }
        }
        return mapper.find(name)
                .map(ConnectionMapper.Row::description)
                .orElseThrow(() -> Problems.unprocessable(
                        "Say where the application's OpenAPI document is, or give the document."));
    }

    private ApplicationAddress address(String name, Connections.ConnectionInput in) {
        Authentication by = authentication(in.authentication(), in.user(), secrets.of(name, in));
        return ApplicationAddress.of(in.title() == null || in.title().isBlank() ? name : in.title(), in.base(), by, "");
    }

    /** How a caller shows who it is; the file of a certificate stands below a root folder. */
    private Authentication authentication(String name, String user, String secret) {
        Authentication.By by = Authentication.By.named(name == null ? "none" : name);
        if (by != Authentication.By.CERTIFICATE) {
            return new Authentication(by, user, secret);
        }
        Path named = Path.of(user == null ? "" : user.strip());
        if (named.getNameCount() < 2 || named.isAbsolute()) {
            throw Problems.unprocessable(
                    "Name the certificate as a root folder and the file below it, as in keys/caller.p12.");
        }
        Path between = named.subpath(1, named.getNameCount()).getParent();
        Path file = folders.below(named.getName(0).toString(), between == null ? "" : between.toString())
                .map(f -> f.resolve(named.getFileName()))
                .filter(f -> Files.isRegularFile(f, LinkOption.NOFOLLOW_LINKS))
                .orElseThrow(() -> Problems.unprocessable("There is no file " + user + "."));
        return new Authentication(by, file.toString(), secret);
    }

    /** How an application is reached; its secret opened, for use and not for showing. */
    ApplicationAddress address(String name) {
        ConnectionMapper.Row r = mapper.find(name)
                .filter(c -> Connections.APPLICATION.equals(c.kind()))
                .orElseThrow(() -> Problems.unprocessable("There is no application named " + name + "."));
        Authentication by = authentication(r.authentication(), r.userName(), seal.open(r.sealedPassword()));
        return ApplicationAddress.of(r.title(), r.base(), by, r.description());
    }

    /** Whether it can be asked what it takes. */
    Connections.TestResult test(String name, Connections.ConnectionInput in) {
        try {
            OpenApi described = OpenApi.read(description(name, in));
            List<Operation> operations = described.operations();
            return new Connections.TestResult(
                    true,
                    "Described: " + described.title() + ", " + operations.size()
                            + (operations.size() == 1 ? " operation" : " operations") + " that take something.");
        } catch (ErrorResponseException e) {
            return new Connections.TestResult(false, e.getBody().getDetail());
        }
    }
}
