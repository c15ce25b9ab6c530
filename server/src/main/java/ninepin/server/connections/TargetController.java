package ninepin.server.connections;

import ninepin.core.deliver.Destination;
import ninepin.core.deliver.Places;
import ninepin.core.deliver.TableDescription;
import ninepin.core.deliver.TargetException;
import ninepin.core.destination.Destinations;
import ninepin.core.job.Definitions;
import ninepin.server.api.Problems;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;
import tools.jackson.databind.JsonNode;

/** What rules of a delivery may fill, wherever it goes. */
@RestController
class TargetController {

    private final Places places;

    TargetController(Places places) {
        this.places = places;
    }

    /** Describes the place of a delivery, as the schema of jobs in docs/schema writes it. */
    @PostMapping("/api/v1/target")
    TableDescription describe(@RequestBody JsonNode to) throws TargetException {
        Destination place = Definitions.read(to.toString(), Destination.class);
        if (!place.decided()) {
            throw Problems.unprocessable("It is not said yet where the rows go.");
        }
        return Destinations.describe(place, places)
                .orElseThrow(
                        () -> Problems.notFound("There is no " + place.label() + " in " + place.connection() + "."));
    }
}
