package ninepin.core.deliver.application;

import java.io.ByteArrayOutputStream;
import java.math.BigDecimal;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import javax.xml.stream.XMLOutputFactory;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamWriter;
import ninepin.core.deliver.application.Operation.Input;
import ninepin.core.deliver.application.Operation.Place;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.JsonNodeFactory;
import tools.jackson.databind.node.ObjectNode;

/** The request that is made of the rows of one document: its path, its headers and its body. */
final class Body {

    private static final JsonMapper JSON = JsonMapper.builder().build();
    private static final JsonNodeFactory NODES = JsonNodeFactory.instance;
    private static final XMLOutputFactory XML = XMLOutputFactory.newFactory();

    private final Operation operation;
    private final ObjectNode root = NODES.objectNode();
    private final Map<String, String> headers = new LinkedHashMap<>();
    private final StringBuilder query = new StringBuilder();
    private String path;

    Body(Operation operation) {
        this.operation = operation;
        this.path = operation.path();
    }

    /** Takes the row that is the request itself. */
    void take(List<Input> inputs, List<String> row) {
        for (int i = 0; i < inputs.size(); i++) {
            Input input = inputs.get(i);
            String value = row.get(i);
            if (input.place() == Place.PATH) {
                path = path.replace("{" + input.name() + "}", encoded(value == null ? "" : value));
            } else if (value == null) {
                continue;
            } else if (input.place() == Place.HEADER) {
                headers.put(input.name(), value.replaceAll("[\\r\\n]+", " "));
            } else if (input.place() == Place.QUERY) {
                query.append(query.isEmpty() ? '?' : '&')
                        .append(encoded(input.name()))
                        .append('=')
                        .append(encoded(value));
            } else {
                put(root, input, value);
            }
        }
    }

    /** Takes a row that stands in a list of the body. */
    void takeIn(String part, List<Input> inputs, List<String> row) {
        ArrayNode list = root.has(part) ? (ArrayNode) root.get(part) : root.putArray(part);
        ObjectNode element = list.addObject();
        for (int i = 0; i < inputs.size(); i++) {
            if (row.get(i) != null) {
                put(element, inputs.get(i), row.get(i));
            }
        }
    }

    private static void put(ObjectNode into, Input input, String value) {
        ObjectNode at = into;
        String[] names = input.name().split("\\.");
        for (int i = 0; i < names.length - 1; i++) {
            at = at.has(names[i]) ? (ObjectNode) at.get(names[i]) : at.putObject(names[i]);
        }
        at.set(names[names.length - 1], node(input, value));
    }

    private static JsonNode node(Input input, String value) {
        return switch (input.column().family()) {
            case WHOLE, EXACT, FLOATING -> number(value);
            case BOOLEAN_BIT -> NODES.booleanNode(value.equals("1") || value.equals("true"));
            case TIMESTAMP -> NODES.stringNode(value.replace(' ', 'T'));
            default -> NODES.stringNode(value);
        };
    }

    /** A number as it is; what is none goes as text, and the application says what it thinks of it. */
    private static JsonNode number(String value) {
        try {
            return NODES.numberNode(new BigDecimal(value.strip()));
        } catch (NumberFormatException e) {
            return NODES.stringNode(value);
        }
    }

    private static String encoded(String text) {
        return URLEncoder.encode(text, StandardCharsets.UTF_8).replace("+", "%20");
    }

    /** The path and the query, behind the address of the application. */
    String target() {
        return path + query;
    }

    Map<String, String> headers() {
        return headers;
    }

    /** What stands in a request for some documents: the one, or all of them in a list where the operation takes one. */
    static byte[] bytes(Operation operation, List<Body> bodies) {
        Body first = bodies.get(0);
        if (!operation.media().contains("json")) {
            return first.xml();
        }
        if (!operation.many()) {
            return JSON.writeValueAsBytes(first.root);
        }
        ArrayNode all = NODES.arrayNode();
        bodies.forEach(b -> all.add(b.root));
        return JSON.writeValueAsBytes(all);
    }

    private byte[] xml() {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        try {
            XMLStreamWriter writer = XML.createXMLStreamWriter(out, "UTF-8");
            writer.writeStartDocument("UTF-8", "1.0");
            element(writer, operation.root(), root);
            writer.writeEndDocument();
            writer.close();
        } catch (XMLStreamException e) {
            throw new IllegalStateException("A body could not be written as XML: " + e.getMessage(), e);
        }
        return out.toByteArray();
    }

    private static void element(XMLStreamWriter writer, String name, JsonNode node) throws XMLStreamException {
        if (node.isArray()) {
            for (JsonNode one : node) {
                element(writer, name, one);
            }
            return;
        }
        writer.writeStartElement(name);
        if (node.isObject()) {
            for (Map.Entry<String, JsonNode> property : node.properties()) {
                element(writer, property.getKey(), property.getValue());
            }
        } else {
            // Characters that XML cannot hold.
            writer.writeCharacters(
                    node.asString().replaceAll("[\\x00-\\x08\\x0b\\x0c\\x0e-\\x1f\\ufffe\\uffff]", "\ufffd"));
        }
        writer.writeEndElement();
    }
}
