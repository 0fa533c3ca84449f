package app.euthyna.server.platform;

import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Refusal;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.math.BigDecimal;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.time.LocalDate;
import java.util.Arrays;
import java.util.Collection;
import java.util.TreeMap;
import java.util.UUID;
import java.util.stream.Collectors;
import org.apache.tomcat.util.http.InvalidParameterException;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.TypeMismatchException;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.HttpStatusCode;
import org.springframework.http.InvalidMediaTypeException;
import org.springframework.http.MediaType;
import org.springframework.http.ProblemDetail;
import org.springframework.http.ResponseEntity;
import org.springframework.http.converter.HttpMessageNotReadableException;
import org.springframework.security.access.AccessDeniedException;
import org.springframework.web.bind.MethodArgumentNotValidException;
import org.springframework.web.bind.MissingServletRequestParameterException;
import org.springframework.web.bind.annotation.ExceptionHandler;
import org.springframework.web.bind.annotation.RestControllerAdvice;
import org.springframework.web.context.request.WebRequest;
import org.springframework.web.method.annotation.MethodArgumentTypeMismatchException;
import org.springframework.web.multipart.MaxUploadSizeExceededException;
import org.springframework.web.multipart.MultipartException;
import org.springframework.web.servlet.NoHandlerFoundException;
import org.springframework.web.servlet.mvc.method.annotation.ResponseEntityExceptionHandler;
import org.springframework.web.servlet.resource.NoResourceFoundException;
import tools.jackson.databind.DatabindException;
import tools.jackson.databind.ObjectMapper;
import tools.jackson.databind.exc.InvalidNullException;
import tools.jackson.databind.exc.MismatchedInputException;
import tools.jackson.databind.exc.UnrecognizedPropertyException;

/** Turns every kind of no into an RFC 9457 problem document. The only place that knows HTTP statuses. */
@RestControllerAdvice
class Problems extends ResponseEntityExceptionHandler {

    private static final Logger LOG = LoggerFactory.getLogger(Problems.class);

    private final ObjectMapper json;

    Problems(ObjectMapper json) {
        this.json = json;
    }

    @ExceptionHandler
    ResponseEntity<ProblemDetail> refused(RefusedException refused) {
        var first = refused.refusals().get(0);
        var problem = problem(status(first.kind()), first.code(), first.sentence());
        problem.setProperty("instead", first.instead());
        problem.setProperty("facts", json.valueToTree(first));
        if (first instanceof CommonRefusal.Incomplete incomplete) {
            var fields = new TreeMap<String, String>();
            incomplete.missing().forEach(one -> fields.putIfAbsent(one.field(), "needs " + one.expected()));
            problem.setProperty("fields", fields);
        }
        problem.setProperty(
                "others",
                refused.refusals().stream()
                        .skip(1)
                        .limit(50)
                        .map(Refusal::sentence)
                        .toList());
        return respond(problem);
    }

    private static HttpStatus status(Refusal.Kind kind) {
        return switch (kind) {
            case RULE_NOT_MET -> HttpStatus.UNPROCESSABLE_CONTENT;
            case WRONG_STATE -> HttpStatus.CONFLICT;
            case NOT_AUTHORISED -> HttpStatus.FORBIDDEN;
            case NOT_FOUND -> HttpStatus.NOT_FOUND;
            case INCOMPLETE -> HttpStatus.BAD_REQUEST;
        };
    }

    @ExceptionHandler
    ResponseEntity<ProblemDetail> denied(AccessDeniedException denied) {
        return respond(problem(HttpStatus.FORBIDDEN, "not-authorised", "Your role does not allow this."));
    }

    /** A form that is none: no boundary, cut off, too many parts. */
    @ExceptionHandler
    ResponseEntity<ProblemDetail> notAForm(MultipartException broken) {
        return respond(problem(HttpStatus.BAD_REQUEST, "malformed", "The file did not come whole, or in no form."));
    }

    /** What was asked for in a form that we do not speak. */
    @ExceptionHandler
    ResponseEntity<ProblemDetail> notAMediaType(InvalidMediaTypeException broken) {
        return respond(problem(HttpStatus.BAD_REQUEST, "malformed", "A header names no media type."));
    }

    /** A query whose letters are none: percent signs without digits, bytes that are no UTF-8. */
    @ExceptionHandler
    ResponseEntity<ProblemDetail> notAQuery(InvalidParameterException broken) {
        return respond(problem(
                HttpStatus.BAD_REQUEST,
                "malformed",
                "A value in the address is not well-formed (UTF-8, percent-encoded)."));
    }

    @ExceptionHandler
    ResponseEntity<ProblemDetail> bug(Exception bug) {
        var incident = UUID.randomUUID().toString();
        LOG.error("incident {}", incident, bug);
        var problem = problem(
                HttpStatus.INTERNAL_SERVER_ERROR,
                "internal",
                "Internal error; nothing was changed. Incident " + incident + ".");
        return respond(problem);
    }

    @Override
    protected ResponseEntity<Object> handleHttpMessageNotReadable(
            HttpMessageNotReadableException unreadable,
            HttpHeaders headers,
            HttpStatusCode status,
            WebRequest request) {
        return widen(problem(
                HttpStatus.BAD_REQUEST,
                "malformed",
                unreadable.getCause() instanceof DatabindException wrong
                        ? words(wrong)
                        : "The request is not well-formed JSON."));
    }

    /** Which field is wrong, and what is expected there. */
    private static String words(DatabindException wrong) {
        var field = new StringBuilder();
        for (var step : wrong.getPath()) {
            field.append(
                    step.getPropertyName() == null
                            ? "[" + step.getIndex() + "]"
                            : (field.isEmpty() ? "" : ".") + step.getPropertyName());
        }
        var where = field.isEmpty() ? "The request" : field.toString();
        if (wrong instanceof UnrecognizedPropertyException) {
            return where + " is not a field of this request.";
        }
        if (wrong instanceof InvalidNullException) {
            return where + ": a value is missing.";
        }
        return "%s: %s is expected."
                .formatted(
                        where,
                        wrong instanceof MismatchedInputException mismatched
                                ? expected(mismatched.getTargetType())
                                : "something else");
    }

    private static String expected(Class<?> type) {
        if (type == null) {
            return "something else";
        }
        if (type.isEnum()) {
            return "one of "
                    + Arrays.stream(type.getEnumConstants())
                            .map(Object::toString)
                            .collect(Collectors.joining(", "));
        }
        if (type == BigDecimal.class) {
            return "a number like 12.50, of at most 13 digits before the point,";
        }
        if (type == LocalDate.class) {
            return "a date like 2026-03-02";
        }
        if (type == Boolean.class || type == boolean.class) {
            return "true or false";
        }
        if (Number.class.isAssignableFrom(type) || type.isPrimitive()) {
            return "a whole number";
        }
        return type == String.class ? "a text" : Collection.class.isAssignableFrom(type) ? "a list" : "an object";
    }

    @Override
    protected ResponseEntity<Object> handleMethodArgumentNotValid(
            MethodArgumentNotValidException invalid, HttpHeaders headers, HttpStatusCode status, WebRequest request) {
        var fields = new TreeMap<String, String>();
        invalid.getFieldErrors().forEach(one -> fields.putIfAbsent(one.getField(), one.getDefaultMessage()));
        var said = fields.entrySet().stream()
                .map(one -> one.getKey() + ": " + one.getValue())
                .collect(Collectors.joining("; "));
        var problem = problem(HttpStatus.BAD_REQUEST, "incomplete", said + ".");
        problem.setProperty("fields", fields);
        return widen(problem);
    }

    @Override
    protected ResponseEntity<Object> handleMaxUploadSizeExceededException(
            MaxUploadSizeExceededException large, HttpHeaders headers, HttpStatusCode status, WebRequest request) {
        return widen(problem(HttpStatus.CONTENT_TOO_LARGE, "malformed", "The file is larger than 40 MB."));
    }

    /** A parameter of the wrong kind is told by its name and what it should be. */
    @Override
    protected ResponseEntity<Object> handleTypeMismatch(
            TypeMismatchException wrong, HttpHeaders headers, HttpStatusCode status, WebRequest request) {
        var name = wrong instanceof MethodArgumentTypeMismatchException argument
                ? argument.getName()
                : wrong.getPropertyName();
        return widen(problem(
                HttpStatus.BAD_REQUEST,
                "malformed",
                "%s: %s is expected.".formatted(name == null ? "A value" : name, expected(wrong.getRequiredType()))));
    }

    @Override
    protected ResponseEntity<Object> handleMissingServletRequestParameter(
            MissingServletRequestParameterException missing,
            HttpHeaders headers,
            HttpStatusCode status,
            WebRequest request) {
        return widen(
                problem(HttpStatus.BAD_REQUEST, "incomplete", missing.getParameterName() + ": a value is missing."));
    }

    @Override
    protected ResponseEntity<Object> handleNoResourceFoundException(
            NoResourceFoundException unknown, HttpHeaders headers, HttpStatusCode status, WebRequest request) {
        return widen(problem(HttpStatus.NOT_FOUND, "not-found", "There is nothing at this address."));
    }

    @Override
    protected ResponseEntity<Object> handleNoHandlerFoundException(
            NoHandlerFoundException unknown, HttpHeaders headers, HttpStatusCode status, WebRequest request) {
        return widen(problem(HttpStatus.NOT_FOUND, "not-found", "There is nothing at this address."));
    }

    @Override
    protected ResponseEntity<Object> handleExceptionInternal(
            Exception ex, Object body, HttpHeaders headers, HttpStatusCode status, WebRequest request) {
        return widen(problem(
                HttpStatus.valueOf(status.value()),
                "malformed",
                body instanceof ProblemDetail detail && detail.getDetail() != null
                        ? detail.getDetail()
                        : "The request was not understood."));
    }

    static ProblemDetail problem(HttpStatus status, String code, String sentence) {
        var problem = ProblemDetail.forStatusAndDetail(status, sentence);
        problem.setType(URI.create("/problems/" + code));
        problem.setTitle(code.replace('-', ' '));
        problem.setProperty("code", code);
        return problem;
    }

    /** Answers with a problem where no controller does. */
    static void write(ObjectMapper json, HttpServletResponse response, HttpStatus status, String code, String sentence)
            throws IOException {
        response.setStatus(status.value());
        response.setContentType(MediaType.APPLICATION_PROBLEM_JSON_VALUE);
        response.setCharacterEncoding(StandardCharsets.UTF_8.name());
        response.getOutputStream().write(json.writeValueAsBytes(problem(status, code, sentence)));
    }

    private static ResponseEntity<ProblemDetail> respond(ProblemDetail problem) {
        return ResponseEntity.status(problem.getStatus())
                .contentType(MediaType.APPLICATION_PROBLEM_JSON)
                .body(problem);
    }

    private static ResponseEntity<Object> widen(ProblemDetail problem) {
        return ResponseEntity.status(problem.getStatus())
                .contentType(MediaType.APPLICATION_PROBLEM_JSON)
                .body(problem);
    }
}
