package app.euthyna.server.platform;

import app.euthyna.core.shared.Role;
import java.lang.annotation.ElementType;
import java.lang.annotation.Retention;
import java.lang.annotation.RetentionPolicy;
import java.lang.annotation.Target;
import java.util.List;
import tools.jackson.core.JsonGenerator;
import tools.jackson.databind.BeanDescription;
import tools.jackson.databind.SerializationConfig;
import tools.jackson.databind.SerializationContext;
import tools.jackson.databind.ser.BeanPropertyWriter;
import tools.jackson.databind.ser.ValueSerializerModifier;

/** A field of an answer that not everybody may read who gets the answer: null for the others (section 15). */
@Target({ElementType.RECORD_COMPONENT, ElementType.FIELD, ElementType.METHOD})
@Retention(RetentionPolicy.RUNTIME)
public @interface ReadBy {

    /** What kind of figure it is. */
    Group value();

    /** Kinds of figures, and who reads them. */
    enum Group {
        /** Costs, floor prices, margins, stock values. */
        COSTS,
        /** Selling prices, values, PO numbers, and what a customer owes. */
        SELLING,
        /** What is agreed and kept as master data or rules: list prices, limits, shares. */
        TERMS,
        /** The ledger. */
        BOOKS,
        /** What may be done by whom. */
        ACCESS;

        /** Whether a role may read it. */
        public boolean isRead(Role role) {
            return switch (this) {
                case COSTS -> role == Role.CONTROLLER || role == Role.LEAD || role == Role.AUDITOR;
                case BOOKS ->
                    role == Role.RECEIVABLES || role == Role.CONTROLLER || role == Role.LEAD || role == Role.AUDITOR;
                case SELLING -> Reading.SELLING.contains(role);
                case TERMS -> role != Role.WAREHOUSE;
                case ACCESS -> role == Role.LEAD || role == Role.AUDITOR || role == Role.ADMIN;
            };
        }

        /** Whether whoever is signed in may; what the server writes for itself is whole. */
        public boolean isRead() {
            var role = Reading.role();
            return role == null || isRead(role);
        }
    }

    /** Has it so in every answer. */
    class Hidden extends ValueSerializerModifier {

        private static final long serialVersionUID = 1L;

        @Override
        public List<BeanPropertyWriter> changeProperties(
                SerializationConfig config, BeanDescription.Supplier bean, List<BeanPropertyWriter> properties) {
            // the list is the serializer's own, and it goes on changing it
            properties.replaceAll(property -> property.getAnnotation(ReadBy.class) == null
                    ? property
                    : new Writer(property, property.getAnnotation(ReadBy.class).value()));
            return properties;
        }
    }

    /** Writes a figure for those alone who may read it. */
    class Writer extends BeanPropertyWriter {

        private static final long serialVersionUID = 1L;

        private final Group group;

        protected Writer(BeanPropertyWriter base, Group group) {
            super(base);
            this.group = group;
        }

        @Override
        public void serializeAsProperty(Object bean, JsonGenerator out, SerializationContext context) throws Exception {
            if (group.isRead()) {
                super.serializeAsProperty(bean, out, context);
            } else {
                out.writeName(getName());
                out.writeNull();
            }
        }
    }
}
