package ninepin.server.demo;

import ninepin.server.connections.Connections;
import ninepin.server.connections.Connections.ConnectionInput;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.boot.ApplicationArguments;
import org.springframework.boot.ApplicationRunner;
import org.springframework.boot.autoconfigure.condition.ConditionalOnProperty;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;

/**
 * Says where the demo's warehouse and Farm Accounts answer, at each start, because their ports may have changed; and before any
 * run goes on. The warehouse has an account of its own, which cannot see Ninepin's tables.
 */
@Component
@ConditionalOnProperty("ninepin.demo")
@Order(15)
class DemoConnections implements ApplicationRunner {

    private final Connections connections;
    private final ConnectionInput warehouse;
    private final ConnectionInput accounts;

    DemoConnections(
            Connections connections,
            @Value("${ninepin.database.host}") String host,
            @Value("${ninepin.database.port}") int port,
            @Value("${ninepin.demo-warehouse-user:${ninepin.database.user}}") String user,
            @Value("${ninepin.demo-warehouse-password:${ninepin.database.password}}") String password,
            @Value("${ninepin.demo-accounts-address:}") String address,
            @Value("${ninepin.demo-accounts-token:}") String token) {
        this.connections = connections;
        this.warehouse = new ConnectionInput("Dairy warehouse", host, port, "larkfell", user, password);
        this.accounts = ConnectionInput.application(
                "Farm Accounts", address + "/api", "bearer", null, token, "/openapi.json", null);
    }

    @Override
    public void run(ApplicationArguments args) {
        connections.put("warehouse", warehouse, "demo");
        connections.put("farm-accounts", accounts, "demo");
    }
}
