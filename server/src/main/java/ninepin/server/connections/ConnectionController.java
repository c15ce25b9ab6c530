package ninepin.server.connections;

import java.security.Principal;
import java.util.List;
import ninepin.core.deliver.ApplicationDelivery;
import ninepin.core.deliver.Places;
import ninepin.core.deliver.TableDescription;
import ninepin.core.deliver.TargetException;
import ninepin.core.deliver.database.Catalog;
import ninepin.core.destination.Destinations;
import ninepin.server.api.Problems;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

@RestController
@RequestMapping("/api/v1/connections")
class ConnectionController {

    private final Connections connections;
    private final Places places;

    ConnectionController(Connections connections, Places places) {
        this.connections = connections;
        this.places = places;
    }

    /** All connections, without their passwords. */
    @GetMapping
    List<Connections.ConnectionView> connections() {
        return connections.all();
    }

    /** The kinds of databases that connections can lead to, with those whose drivers the operator has put into a folder. */
    @GetMapping("/kinds")
    List<Connections.KindView> kinds() {
        return connections.kinds();
    }

    /** Makes a connection or changes it. A password that is left out stays as long as the address does. */
    @PutMapping("/{connection}")
    Connections.ConnectionView put(
            @PathVariable("connection") String name, @RequestBody Connections.ConnectionInput input, Principal who) {
        return connections.put(name, input, who.getName());
    }

    /** What uses a connection. */
    @GetMapping("/{connection}/uses")
    List<ConnectionUse.Use> uses(@PathVariable("connection") String name) {
        return connections.usesOf(connections.known(name));
    }

    /** Deletes a connection that nothing uses. */
    @DeleteMapping("/{connection}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void delete(@PathVariable("connection") String name) {
        connections.delete(name);
    }

    /** Tries a connection as it is given, without keeping it. */
    @PostMapping("/{connection}/test")
    Connections.TestResult test(
            @PathVariable("connection") String name, @RequestBody Connections.ConnectionInput input) {
        return connections.test(name, input);
    }

    /** An operation of an application: the lists of its body, and the values of its answer. */
    record OperationView(
            String method, String path, String summary, boolean many, List<String> parts, List<String> answers) {}

    /** The operations of an application, as its description says. */
    @GetMapping("/{connection}/operations")
    List<OperationView> operations(@PathVariable("connection") String name) {
        return connections.operations(connections.known(name)).stream()
                .map(o -> new OperationView(
                        o.method(), o.path(), o.summary(), o.many(), List.copyOf(o.parts()), o.answers()))
                .toList();
    }

    /** What rules may fill of an operation's body, or of one of its lists. */
    @GetMapping("/{connection}/operation")
    TableDescription operation(
            @PathVariable("connection") String name,
            @RequestParam String method,
            @RequestParam String path,
            @RequestParam(required = false) String part)
            throws TargetException {
        return Destinations.describe(new ApplicationDelivery(name, method, path, part, List.of()), places)
                .orElseThrow(() -> Problems.notFound("There is no " + method + " " + path + " in " + name + "."));
    }

    /** The tables of a database. */
    @GetMapping("/{connection}/tables")
    List<Catalog.Listed> tables(@PathVariable("connection") String name) throws TargetException {
        return connections.tables(connections.known(name));
    }

    /** A table with its columns and keys. */
    @GetMapping("/{connection}/tables/{table}")
    TableDescription table(@PathVariable("connection") String name, @PathVariable String table) throws TargetException {
        return connections
                .table(connections.known(name), table)
                .orElseThrow(() -> Problems.notFound("There is no table " + table + " in " + name + "."));
    }

    /** Some rows of a table, as texts. */
    @GetMapping("/{connection}/tables/{table}/rows")
    Connections.TableRows rows(
            @PathVariable("connection") String name,
            @PathVariable String table,
            @RequestParam(defaultValue = "100") int most)
            throws TargetException {
        return connections.rows(connections.known(name), table, most);
    }
}
