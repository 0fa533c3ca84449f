package app.euthyna.server.platform;

import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Quantity;
import com.fasterxml.jackson.annotation.Nulls;
import io.swagger.v3.core.converter.AnnotatedType;
import io.swagger.v3.oas.models.OpenAPI;
import io.swagger.v3.oas.models.info.Info;
import io.swagger.v3.oas.models.media.ArraySchema;
import io.swagger.v3.oas.models.media.Content;
import io.swagger.v3.oas.models.media.MediaType;
import io.swagger.v3.oas.models.media.Schema;
import io.swagger.v3.oas.models.media.StringSchema;
import io.swagger.v3.oas.models.responses.ApiResponse;
import jakarta.annotation.Nullable;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.Arrays;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import org.springdoc.core.customizers.OpenApiCustomizer;
import org.springdoc.core.customizers.PropertyCustomizer;
import org.springdoc.core.utils.SpringDocUtils;
import org.springframework.boot.jackson.autoconfigure.JsonMapperBuilderCustomizer;
import org.springframework.context.annotation.Bean;
import tools.jackson.core.JsonGenerator;
import tools.jackson.core.JsonParser;
import tools.jackson.core.JsonToken;
import tools.jackson.databind.DeserializationContext;
import tools.jackson.databind.SerializationContext;
import tools.jackson.databind.ValueDeserializer;
import tools.jackson.databind.ValueSerializer;
import tools.jackson.databind.module.SimpleModule;

/** The clock, how figures travel, and what the API says of itself. */
@org.springframework.context.annotation.Configuration
class Configuration {

    static {
        SpringDocUtils.getConfig().replaceWithSchema(BigDecimal.class, new StringSchema());
    }

    @Bean
    CompanyClock clock(Company company) {
        return company.clock();
    }

    /** Figures travel as text: a JSON number loses its scale. */
    @Bean
    JsonMapperBuilderCustomizer figuresAsText() {
        var module = new SimpleModule("figures");
        module.addSerializer(BigDecimal.class, new ValueSerializer<>() {
            @Override
            public void serialize(BigDecimal value, JsonGenerator out, SerializationContext context) {
                out.writeString(value.toPlainString());
            }
        });
        module.addSerializer(Money.class, new ValueSerializer<>() {
            @Override
            public void serialize(Money value, JsonGenerator out, SerializationContext context) {
                out.writeString(value.amount().toPlainString());
            }
        });
        module.addSerializer(Quantity.class, new ValueSerializer<>() {
            @Override
            public void serialize(Quantity value, JsonGenerator out, SerializationContext context) {
                out.writeString(value.value().toPlainString());
            }
        });
        module.addDeserializer(LocalDate.class, new ValueDeserializer<>() {
            @Override
            public LocalDate deserialize(JsonParser in, DeserializationContext context) {
                return GivenValues.date(
                        in.getValueAsString(),
                        words -> context.weirdStringException(in.getValueAsString(), LocalDate.class, words));
            }
        });
        module.addDeserializer(BigDecimal.class, new ValueDeserializer<>() {
            @Override
            public BigDecimal deserialize(JsonParser in, DeserializationContext context) {
                var text = in.currentToken() == JsonToken.VALUE_STRING ? in.getString() : "";
                return in.currentToken().isNumeric()
                        ? GivenValues.figure(
                                in.getDecimalValue(),
                                words -> context.weirdStringException(text, BigDecimal.class, words))
                        : GivenValues.figure(
                                text, words -> context.weirdStringException(text, BigDecimal.class, words));
            }
        });
        module.addDeserializer(String.class, new ValueDeserializer<>() {
            @Override
            public String deserialize(JsonParser in, DeserializationContext context) {
                if (!in.currentToken().isScalarValue()) {
                    return (String) context.handleUnexpectedToken(String.class, in);
                }
                var text = in.getValueAsString();
                if (!GivenValues.isText(text)) {
                    throw context.weirdStringException("", String.class, "a text of whole characters");
                }
                return text;
            }
        });
        return builder -> builder.addModule(module.setSerializerModifier(new ReadBy.Hidden()))
                .changeDefaultNullHandling(nulls -> nulls.withContentNulls(Nulls.FAIL));
    }

    @Bean
    OpenAPI api() {
        return new OpenAPI()
                .info(new Info()
                        .title("Euthyna")
                        .version("1")
                        .description("Order-to-cash control. Amounts and quantities travel as text; every command"
                                + " carries an Idempotency-Key."));
    }

    /** Every operation can be refused; the typed client must know. */
    @Bean
    OpenApiCustomizer everyOperationCanBeRefused() {
        return api -> {
            api.getComponents()
                    .addSchemas(
                            "Problem",
                            new Schema<>()
                                    .type("object")
                                    .addProperty("type", new StringSchema())
                                    .addProperty("title", new StringSchema())
                                    .addProperty(
                                            "status",
                                            new Schema<>().type("integer").format("int32"))
                                    .addProperty("detail", new StringSchema())
                                    .addProperty("code", new StringSchema())
                                    .addProperty("instead", new StringSchema())
                                    .addProperty("facts", new Schema<>().type("object"))
                                    .addProperty(
                                            "fields",
                                            new Schema<>().type("object").additionalProperties(new StringSchema()))
                                    .addProperty("others", new ArraySchema().items(new StringSchema())));
            var problem = new ApiResponse()
                    .description("Refused")
                    .content(new Content()
                            .addMediaType(
                                    "application/problem+json",
                                    new MediaType().schema(new Schema<>().$ref("#/components/schemas/Problem"))));
            api.getPaths()
                    .values()
                    .forEach(path -> path.readOperations().forEach(operation -> {
                        operation.getResponses().values().forEach(response -> alwaysThere(api, response));
                        operation.getResponses().addApiResponse("default", problem);
                    }));
        };
    }

    /** What is marked nullable is described as such. */
    @Bean
    PropertyCustomizer whatMayBeNull() {
        return (property, type) -> isNullable(type) ? orNull(property) : property;
    }

    private static Schema<?> orNull(Schema<?> schema) {
        if (schema.get$ref() != null) {
            return new Schema<>().oneOf(List.of(schema, new Schema<>().types(Set.of("null"))));
        }
        var types = new LinkedHashSet<String>(schema.getTypes() != null ? schema.getTypes() : Set.of(schema.getType()));
        types.add("null");
        return schema.types(types);
    }

    private static boolean isNullable(AnnotatedType type) {
        return type.getCtxAnnotations() != null
                && Arrays.stream(type.getCtxAnnotations()).anyMatch(Nullable.class::isInstance);
    }

    /** Answers carry all their properties, always; one that does not apply is null, where it is marked nullable. */
    private static void alwaysThere(OpenAPI api, ApiResponse response) {
        if (response.getContent() != null) {
            response.getContent().values().forEach(media -> alwaysThere(api, media.getSchema()));
        }
    }

    private static void alwaysThere(OpenAPI api, Schema<?> schema) {
        if (schema == null) {
            return;
        }
        if (schema.get$ref() != null) {
            Schema<?> named = api.getComponents()
                    .getSchemas()
                    .get(schema.get$ref().substring(schema.get$ref().lastIndexOf('/') + 1));
            if (named.getRequired() == null && named.getProperties() != null) {
                named.setRequired(List.copyOf(named.getProperties().keySet()));
                named.getProperties().values().forEach(property -> alwaysThere(api, property));
            }
        }
        alwaysThere(api, schema.getItems());
        if (schema.getOneOf() != null) {
            schema.getOneOf().forEach(one -> alwaysThere(api, one));
        }
    }
}
