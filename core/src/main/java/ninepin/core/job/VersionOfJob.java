package ninepin.core.job;

import tools.jackson.core.JsonGenerator;
import tools.jackson.databind.JavaType;
import tools.jackson.databind.SerializationContext;
import tools.jackson.databind.cfg.MapperConfig;
import tools.jackson.databind.introspect.AnnotatedClass;
import tools.jackson.databind.introspect.BeanPropertyDefinition;
import tools.jackson.databind.ser.VirtualBeanPropertyWriter;
import tools.jackson.databind.util.Annotations;

/** Writes the version of the form in which a job is written. */
final class VersionOfJob extends VirtualBeanPropertyWriter {

    private static final long serialVersionUID = 1;

    /** Made by the mapper, which asks for the version with its place. */
    VersionOfJob() {}

    private VersionOfJob(BeanPropertyDefinition property, Annotations context, JavaType type) {
        super(property, context, type);
    }

    @Override
    protected Object value(Object job, JsonGenerator out, SerializationContext context) {
        return Upgrades.JOB;
    }

    @Override
    public VirtualBeanPropertyWriter withConfig(
            MapperConfig<?> config, AnnotatedClass declaring, BeanPropertyDefinition property, JavaType type) {
        return new VersionOfJob(property, declaring.getAnnotations(), type);
    }
}
