package ninepin.server.demo;

import ninepin.server.connections.Connections;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.boot.ApplicationArguments;
import org.springframework.boot.ApplicationRunner;
import org.springframework.boot.autoconfigure.condition.ConditionalOnProperty;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;

/** Says where Farm Accounts answers, at each start, because its port may have changed; and before any run goes on. */
@Component
@ConditionalOnProperty("ninepin.demo")
@Order(15)
class DemoAccounts implements ApplicationRunner {

    private final Connections connections;
    private final String address;
    private final String token;

    DemoAccounts(
            Connections connections,
            @Value("${ninepin.demo-accounts-address:}") String address,
            @Value("${ninepin.demo-accounts-token:}") String token) {
        this.connections = connections;
        this.address = address;
        this.token = token;
    }

    @Override
    public void run(ApplicationArguments args) {
        connections.put(
                "farm-accounts",
                new Connections.ConnectionInput(
                        "Farm Accounts",
                        Connections.APPLICATION,
                        null,
                        0,
                        null,
                        null,
                        token,
                        address + "/api",
                        "bearer",
                        "/openapi.json",
                        null),
                "demo");
    }
}
