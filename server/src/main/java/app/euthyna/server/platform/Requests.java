package app.euthyna.server.platform;

import app.euthyna.core.shared.Dating;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.function.Function;
import org.springframework.context.annotation.Configuration;
import org.springframework.core.convert.converter.Converter;
import org.springframework.format.FormatterRegistry;
import org.springframework.web.servlet.HandlerInterceptor;
import org.springframework.web.servlet.config.annotation.InterceptorRegistry;
import org.springframework.web.servlet.config.annotation.WebMvcConfigurer;

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

    @Override
    public void addInterceptors(InterceptorRegistry registry) {
        registry.addInterceptor(new HandlerInterceptor() {
                    @Override
                    public boolean preHandle(HttpServletRequest request, HttpServletResponse response, Object handler) {
                        span("from", day(request, "from"), "to", day(request, "to"));
                        return true;
                    }
                })
                .addPathPatterns("/api/**");
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
