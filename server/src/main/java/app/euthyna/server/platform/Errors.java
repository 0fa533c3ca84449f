package app.euthyna.server.platform;

import jakarta.servlet.RequestDispatcher;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import org.springframework.boot.webmvc.error.ErrorController;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Controller;
import org.springframework.web.bind.annotation.RequestMapping;
import tools.jackson.databind.ObjectMapper;

/** What failed before anybody answered it is a problem document too; asked for by itself there is nothing here. */
@Controller
class Errors implements ErrorController {

    private final ObjectMapper json;

    Errors(ObjectMapper json) {
        this.json = json;
    }

    @RequestMapping("/error")
    void error(HttpServletRequest request, HttpServletResponse response) throws IOException {
        var status = request.getAttribute(RequestDispatcher.ERROR_STATUS_CODE) instanceof Integer code
                ? HttpStatus.resolve(code)
                : HttpStatus.NOT_FOUND;
        if (status == null || status.is5xxServerError()) {
            Problems.write(json, response, HttpStatus.INTERNAL_SERVER_ERROR, "internal", "Internal error.");
        } else if (status == HttpStatus.NOT_FOUND) {
            Problems.write(json, response, status, "not-found", "There is nothing at this address.");
        } else {
            Problems.write(json, response, status, "malformed", "The request was not understood.");
        }
    }
}
