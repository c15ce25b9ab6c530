package ninepin.core.job;

import java.util.List;
import java.util.Objects;
import java.util.stream.Stream;
import ninepin.core.layout.Check;
import ninepin.core.layout.DataType;
import ninepin.core.layout.DefinitionException;
import ninepin.core.layout.Field;
import ninepin.core.layout.Place;
import tools.jackson.databind.annotation.JsonDeserialize;
import tools.jackson.databind.annotation.JsonSerialize;
import tools.jackson.databind.util.StdConverter;

/** A field as JSON: the parts of its place stand beside its name. */
record FieldForm(
        String name,
        String header,
        Integer column,
        Integer start,
        Integer length,
        String path,
        String json,
        String letter,
        Boolean sheet,
        DataType type,
        List<Check> checks) {

    /** Says of a field that it is written and read in this form. */
    @JsonSerialize(converter = Written.class)
    @JsonDeserialize(converter = Read.class)
    interface Mixed {}

    private Place place() {
        boolean ofSheet = Boolean.TRUE.equals(sheet);
        List<Place> places = Stream.<Place>of(
                        header == null ? null : new Place.Header(header),
                        column == null ? null : new Place.Column(column),
                        start == null || length == null ? null : new Place.Span(start, length),
                        path == null ? null : new Place.Path(path),
                        json == null ? null : new Place.JsonPath(json),
                        letter == null ? null : new Place.Letter(letter),
                        ofSheet ? new Place.SheetName() : null)
                .filter(Objects::nonNull)
                .toList();
        if (places.size() > 1) {
            throw new DefinitionException("fields." + name, "stands in one place only");
        }
        if ((start == null) != (length == null)) {
            throw new DefinitionException("fields." + name + ".start", "has a start and a length, both from 1");
        }
        return places.isEmpty() ? null : places.get(0);
    }

    /** From the form to the field. */
    static final class Read extends StdConverter<FieldForm, Field> {
        @Override
        public Field convert(FieldForm form) {
            return new Field(form.name, form.place(), form.type, form.checks);
        }
    }

    /** From the field to the form. */
    static final class Written extends StdConverter<Field, FieldForm> {
        @Override
        public FieldForm convert(Field field) {
            Place place = field.place();
            Place.Span span = place instanceof Place.Span s ? s : null;
            return new FieldForm(
                    field.name(),
                    place instanceof Place.Header h ? h.name() : null,
                    place instanceof Place.Column c ? c.number() : null,
                    span == null ? null : span.start(),
                    span == null ? null : span.length(),
                    place instanceof Place.Path p ? p.path() : null,
                    place instanceof Place.JsonPath p ? p.path() : null,
                    place instanceof Place.Letter l ? l.letter() : null,
                    place instanceof Place.SheetName ? true : null,
                    field.type(),
                    field.checks());
        }
    }
}
