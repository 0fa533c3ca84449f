package app.euthyna.server.platform;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import org.apache.catalina.connector.Request;
import org.apache.catalina.connector.Response;
import org.apache.catalina.core.StandardHost;
import org.apache.catalina.valves.ErrorReportValve;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.boot.tomcat.servlet.TomcatServletWebServerFactory;
import org.springframework.boot.web.server.WebServerFactoryCustomizer;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ProblemDetail;
import org.springframework.http.converter.json.ProblemDetailJacksonMixin;
import org.springframework.stereotype.Component;
import tools.jackson.databind.json.JsonMapper;

/**
 * What the connector refuses before the application is asked, such as letters in a path that are none, is told as a
 * problem document like everything else.
 */
@Component
class Unread implements WebServerFactoryCustomizer<TomcatServletWebServerFactory> {

    private static final JsonMapper JSON = JsonMapper.builder()
            .addMixIn(ProblemDetail.class, ProblemDetailJacksonMixin.class)
            .build();

    @Override
    public void customize(TomcatServletWebServerFactory factory) {
        factory.addContextCustomizers(context -> {
            if (context.getParent() instanceof StandardHost host) {
                host.setErrorReportValveClass(Told.class.getName());
            }
        });
    }

    /** Made by the host, by its name: nothing of the application is at hand. */
    public static final class Told extends ErrorReportValve {

        private static final Logger LOG = LoggerFactory.getLogger(Unread.class);

        @Override
        protected void report(Request request, Response response, Throwable failure) {
            var status = HttpStatus.resolve(response.getStatus());
            if (status == null
                    || !status.isError()
                    || response.getContentWritten() > 0
                    || !response.setErrorReported()) {
                return;
            }
            var problem = status.is5xxServerError()
                    ? Problems.problem(status, "internal", "Internal error.")
                    : Problems.problem(status, "malformed", "The request was not understood.");
            try {
                response.setContentType(MediaType.APPLICATION_PROBLEM_JSON_VALUE);
                response.setCharacterEncoding(StandardCharsets.UTF_8.name());
                response.getOutputStream().write(JSON.writeValueAsBytes(problem));
                response.finishResponse();
            } catch (IOException gone) {
                LOG.debug("Whoever asked is gone.", gone);
            }
        }
    }
}
