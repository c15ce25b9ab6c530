package ninepin.core.layout;

/**
 * A document of an XML schema, kept with the layout so that nothing has to be fetched.
 *
 * @param name the name of its file, by which other documents include or import it
 * @param text the document
 */
public record SchemaDocument(String name, String text) {

    private static final int MOST = 4 << 20;

    public SchemaDocument {
        Names.requireText("format.schema.name", name);
        Names.requireText("format.schema.text", text);
        if (text.length() > MOST) {
            throw new DefinitionException("format.schema", name + " is larger than " + (MOST >> 20) + " MiB");
        }
    }
}
