package ninepin.server.api;

import io.swagger.v3.oas.models.OpenAPI;
import io.swagger.v3.oas.models.info.Info;
import io.swagger.v3.oas.models.media.Schema;
import io.swagger.v3.oas.models.servers.Server;
import java.util.ArrayList;
import java.util.List;
import org.springdoc.core.customizers.OpenApiCustomizer;
import org.springdoc.core.utils.SpringDocUtils;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import tools.jackson.databind.JsonNode;

/** The description of the API: the same wherever it is served, every property of an answer always there. */
@Configuration
class ApiDescription {

    static {
        SpringDocUtils.getConfig().replaceWithClass(JsonNode.class, Object.class);
    }

    @Bean
    OpenAPI description() {
        return new OpenAPI()
                .info(new Info()
                        .title("Ninepin")
                        .version("1")
                        .description("Jobs, runs and connections. Errors are problem details (RFC 9457). Job and layout"
                                + " definitions follow the schemas in docs/schema."))
                .servers(List.of(new Server().url("/")));
    }

    @Bean
    @SuppressWarnings({"rawtypes", "unchecked"})
    OpenApiCustomizer alwaysThere() {
        return api -> api.getComponents().getSchemas().forEach((name, schema) -> {
            if (schema.getProperties() != null) {
                ((Schema) schema)
                        .setRequired(new ArrayList<>(schema.getProperties().keySet()));
            }
        });
    }
}
