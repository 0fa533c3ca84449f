package app.euthyna.server.platform;

import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Dating;
import jakarta.servlet.DispatcherType;
import jakarta.servlet.ServletContext;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.EnumSet;
import java.util.function.Function;
import org.springframework.boot.web.servlet.ServletContextInitializer;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.core.Ordered;
import org.springframework.core.convert.converter.Converter;
import org.springframework.format.FormatterRegistry;
import org.springframework.web.servlet.HandlerInterceptor;
import org.springframework.web.servlet.config.annotation.InterceptorRegistry;
import org.springframework.web.servlet.config.annotation.WebMvcConfigurer;
import tools.jackson.databind.ObjectMapper;

/**
 * How the parameters of requests are read: as strictly as their bodies, and a span of days from its first to its last.
 */
@Configuration
class Requests implements WebMvcConfigurer {

    private static final Function<String, IllegalArgumentException> WRONG = IllegalArgumentException::new;

    @Override
    public void addFormatters(FormatterRegistry registry) {
        // classes, not lambdas: Spring reads their types
        registry.addConverter(new Converter<String, LocalDate>() {
            @Override
            public LocalDate convert(String text) {
                return text.isEmpty() ? null : GivenValues.date(text, WRONG);
            }
        });
        registry.addConverter(new Converter<String, BigDecimal>() {
            @Override
            public BigDecimal convert(String text) {
                return text.isEmpty() ? null : GivenValues.figure(text, WRONG);
            }
        });
    }

    /** Before all other filters, in a web server alone. */
    @Bean
    ServletContextInitializer bodies(ObjectMapper json) {
        return new First(json);
    }

    /** Its place is asked of the object, not of the method that made it. */
    private record First(ObjectMapper json) implements ServletContextInitializer, Ordered {

        @Override
        public void onStartup(ServletContext context) {
            var filter = context.addFilter("bodies", new Bodies(json));
            filter.setAsyncSupported(true);
            filter.addMappingForUrlPatterns(EnumSet.of(DispatcherType.REQUEST, DispatcherType.ASYNC), false, "/api/*");
        }

        @Override
        public int getOrder() {
            return HIGHEST_PRECEDENCE;
        }
    }

    @Override
    public void addInterceptors(InterceptorRegistry registry) {
        registry.addInterceptor(new HandlerInterceptor() {
                    @Override
                    public boolean preHandle(HttpServletRequest request, HttpServletResponse response, Object handler) {
                        texts(request);
                        span("from", day(request, "from"), "to", day(request, "to"));
                        return true;
                    }
                })
                .addPathPatterns("/api/**");
        registry.addInterceptor(new Reading()).addPathPatterns("/api/**");
    }

    /** Of a file only its form is read, by whoever takes the file. */
    private static void texts(HttpServletRequest request) {
        if (request.getContentType() == null || request.getContentType().startsWith("application/json")) {
            request.getParameterMap().forEach((name, values) -> {
                for (var value : values) {
                    if (!GivenValues.isText(value) || value.indexOf('\uFFFD') >= 0) {
                        throw new RefusedException(
                                CommonRefusal.Incomplete.of(GivenValues.isText(name) ? name : "query", "a text"));
                    }
                }
            });
        }
    }

    /** Refuses a span of days that ends before it begins; each end may be open. */
    static void span(String fromField, LocalDate from, String toField, LocalDate to) {
        RefusedException.where(Dating.span(fromField, from, toField, to));
    }

    /** A parameter that is no date is told by whoever reads it. */
    private static LocalDate day(HttpServletRequest request, String name) {
        var text = request.getParameter(name);
        try {
            return text == null ? null : GivenValues.date(text, WRONG);
        } catch (IllegalArgumentException notOne) {
            return null;
        }
    }
}
