package ninepin.server.follow;

import static io.swagger.v3.oas.annotations.media.Schema.RequiredMode.REQUIRED;

import io.swagger.v3.oas.annotations.media.Schema;
import java.io.IOException;
import java.util.Map;
import ninepin.core.deliver.TargetException;
import ninepin.server.api.Problems;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

@RestController
class FollowController {

    /** A row of a table by the values of a unique key. */
    record RowAsked(
            @Schema(requiredMode = REQUIRED) String connection,
            @Schema(requiredMode = REQUIRED) String table,
            @Schema(requiredMode = REQUIRED) Map<String, String> key) {
        RowAsked {
            Problems.needed("connection", connection);
            Problems.needed("table", table);
            Problems.needed("key", key);
        }
    }

    private final Following following;
    private final RowOrigin origins;

    FollowController(Following following, RowOrigin origins) {
        this.origins = origins;
        this.following = following;
    }

    /** A record of the run from its bytes in the file to its rows in the targets. */
    @GetMapping("/api/v1/runs/{run}/follow")
    Following.Followed follow(
            @PathVariable("run") long id,
            @RequestParam(required = false) Long line,
            @RequestParam(required = false) Long record)
            throws IOException, TargetException {
        if ((line == null) == (record == null)) {
            throw Problems.unprocessable("Name a line or a record.");
        }
        return following.follow(id, line, record);
    }

    /** The records that a row of a target came from, found by its key. */
    @PostMapping("/api/v1/follow")
    RowOrigin.Found find(@RequestBody RowAsked asked) throws IOException, TargetException {
        return origins.find(asked.connection(), asked.table(), asked.key());
    }
}
