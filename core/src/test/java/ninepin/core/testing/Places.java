package ninepin.core.testing;

import ninepin.core.layout.Field;
import ninepin.core.layout.Place;

/** The places of fields, where a test knows of which kind they are. */
public final class Places {

    private Places() {}

    public static String path(Field field) {
        return ((Place.Path) field.place()).path();
    }

    public static Place.Span span(Field field) {
        return (Place.Span) field.place();
    }
}
