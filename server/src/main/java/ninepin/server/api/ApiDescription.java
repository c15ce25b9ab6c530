package ninepin.server.api;

import io.swagger.v3.oas.models.Components;
import io.swagger.v3.oas.models.OpenAPI;
import io.swagger.v3.oas.models.Operation;
import io.swagger.v3.oas.models.PathItem;
import io.swagger.v3.oas.models.info.Info;
import io.swagger.v3.oas.models.media.Content;
import io.swagger.v3.oas.models.media.IntegerSchema;
import io.swagger.v3.oas.models.media.MediaType;
import io.swagger.v3.oas.models.media.ObjectSchema;
import io.swagger.v3.oas.models.media.Schema;
import io.swagger.v3.oas.models.media.StringSchema;
import io.swagger.v3.oas.models.parameters.RequestBody;
import io.swagger.v3.oas.models.responses.ApiResponse;
import io.swagger.v3.oas.models.security.SecurityRequirement;
import io.swagger.v3.oas.models.security.SecurityScheme;
import io.swagger.v3.oas.models.servers.Server;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import org.springdoc.core.customizers.OpenApiCustomizer;
import org.springdoc.core.utils.SpringDocUtils;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import tools.jackson.databind.JsonNode;

/**
 * The description of the API: the same wherever it is served, operations named by their addresses, every property of an answer
 * always there, and what a request can fail by.
 */
@Configuration
class ApiDescription {

    private static final String PROBLEM = "Problem";
    private static final String SESSION = "session";
    private static final String PASSWORD = "password";

    /** What anybody may ask. */
    private static final Set<String> OPEN = Set.of("/api/v1/session", "/api/v1/facts");

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
                .components(new Components()
                        .addSecuritySchemes(
                                SESSION,
                                new SecurityScheme()
                                        .type(SecurityScheme.Type.APIKEY)
                                        .in(SecurityScheme.In.COOKIE)
                                        .name("JSESSIONID")
                                        .description(
                                                "Of POST /api/v1/session. What changes something also needs the value of the"
                                                        + " cookie XSRF-TOKEN in the header X-XSRF-TOKEN."))
                        .addSecuritySchemes(
                                PASSWORD,
                                new SecurityScheme()
                                        .type(SecurityScheme.Type.HTTP)
                                        .scheme("basic")
                                        .description("Name and password with each request; needs no token.")))
                .servers(List.of(new Server().url("/")));
    }

    @Bean
    OpenApiCustomizer complete() {
        return api -> {
            requireWhatIsAlwaysThere(api);
            api.getComponents().addSchemas(PROBLEM, problem());
            api.getPaths().forEach((path, item) -> item.readOperationsMap().forEach((method, operation) -> {
                operation.setOperationId(idOf(method, path));
                sayForm(operation.getRequestBody());
                operation.getResponses().values().forEach(ApiDescription::sayJson);
                operation.getResponses().addApiResponse("default", failed());
                if (!OPEN.contains(path)) {
                    operation.setSecurity(List.of(
                            new SecurityRequirement().addList(SESSION), new SecurityRequirement().addList(PASSWORD)));
                }
            }));
        };
    }

    /** Stays the same as long as method and address do: {@code getRunsByRunPlaces}. */
    static String idOf(PathItem.HttpMethod method, String path) {
        StringBuilder id = new StringBuilder(method.name().toLowerCase(Locale.ROOT));
        for (String segment : path.replaceFirst("^/api/v1", "").split("/")) {
            boolean named = segment.startsWith("{");
            id.append(named ? "By" : "");
            for (String word : segment.split("[^A-Za-z0-9]+")) {
                if (!word.isEmpty()) {
                    id.append(Character.toUpperCase(word.charAt(0))).append(word.substring(1));
                }
            }
        }
        return id.toString();
    }

    private static ApiResponse failed() {
        Schema<?> problem = new Schema<>().$ref("#/components/schemas/" + PROBLEM);
        return new ApiResponse()
                .description("It failed; the problem says by what.")
                .content(new Content().addMediaType("application/problem+json", new MediaType().schema(problem)));
    }

    private static Schema<?> problem() {
        Schema<?> problem = new ObjectSchema()
                .description("What a request failed by (RFC 9457).")
                .addProperty("type", new StringSchema().format("uri-reference").description("A page about the code."))
                .addProperty("title", new StringSchema())
                .addProperty("status", new IntegerSchema())
                .addProperty("detail", new StringSchema().description("What it is in this case, for people."))
                .addProperty("code", new StringSchema().description("Stays the same, for programs."))
                .addProperty("part", new StringSchema().description("The part of a definition that is concerned."));
        problem.setRequired(List.of("type", "title", "status", "code"));
        return problem;
    }

    /** What is no file is JSON, which nothing but the absence of another type says. */
    private static void sayJson(ApiResponse answer) {
        Content content = answer.getContent();
        MediaType any = content == null ? null : content.get("*/*");
        if (any != null && any.getSchema() != null && !isFile(any.getSchema()) && !isNothing(any.getSchema())) {
            content.remove("*/*");
            content.addMediaType("application/json", any);
        }
    }

    /** An answer without a body is described as an object of which nothing is known. */
    private static boolean isNothing(Schema<?> schema) {
        return "object".equals(schema.getType())
                && schema.getProperties() == null
                && schema.get$ref() == null
                && schema.getAdditionalProperties() == null;
    }

    /** What has a file among its parts is sent as a form. */
    private static void sayForm(RequestBody body) {
        Content content = body == null ? null : body.getContent();
        MediaType json = content == null ? null : content.get("application/json");
        boolean file = json != null
                && json.getSchema().getProperties() != null
                && ((Schema<?>) json.getSchema())
                        .getProperties().values().stream().anyMatch(ApiDescription::isFile);
        if (file) {
            content.remove("application/json");
            content.addMediaType("multipart/form-data", json);
        }
    }

    private static boolean isFile(Schema<?> schema) {
        boolean streamed = schema.get$ref() != null && schema.get$ref().endsWith("StreamingResponseBody");
        return streamed || "binary".equals(schema.getFormat()) || "byte".equals(schema.getFormat());
    }

    /** Everything in an answer is always there, if only as null; of a request only what it cannot be without. */
    @SuppressWarnings({"rawtypes", "unchecked"})
    private static void requireWhatIsAlwaysThere(OpenAPI api) {
        Map<String, Schema> schemas = api.getComponents().getSchemas();
        Set<String> asked = new HashSet<>();
        api.getPaths().values().stream()
                .flatMap(item -> item.readOperations().stream())
                .map(Operation::getRequestBody)
                .filter(body -> body != null && body.getContent() != null)
                .flatMap(body -> body.getContent().values().stream())
                .forEach(content -> addNames(content.getSchema(), schemas, asked));
        schemas.forEach((name, schema) -> {
            if (schema.getProperties() != null && !asked.contains(name)) {
                schema.setRequired(new ArrayList<>(schema.getProperties().keySet()));
            }
        });
    }

    @SuppressWarnings("rawtypes")
    private static void addNames(Schema<?> schema, Map<String, Schema> schemas, Set<String> names) {
        if (schema == null) {
            return;
        }
        if (schema.get$ref() != null) {
            String name = schema.get$ref().substring(schema.get$ref().lastIndexOf('/') + 1);
            if (names.add(name)) {
                addNames(schemas.get(name), schemas, names);
            }
        }
        addNames(schema.getItems(), schemas, names);
        if (schema.getProperties() != null) {
            schema.getProperties().values().forEach(part -> addNames((Schema<?>) part, schemas, names));
        }
    }
}
