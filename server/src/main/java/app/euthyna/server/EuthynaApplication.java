package app.euthyna.server;

import org.springframework.boot.SpringApplication;
import org.springframework.boot.autoconfigure.SpringBootApplication;

/** The server: REST in front, the rules of {@code app.euthyna.core} inside, a database behind. */
@SpringBootApplication
public class EuthynaApplication {

    public static void main(String[] args) {
        SpringApplication.run(EuthynaApplication.class, args);
    }
}
