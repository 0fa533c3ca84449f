package app.euthyna.demo;

import org.springframework.boot.autoconfigure.AutoConfiguration;
import org.springframework.boot.autoconfigure.condition.ConditionalOnProperty;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.ComponentScan;
import org.springframework.context.annotation.Primary;
import org.springframework.security.crypto.bcrypt.BCryptPasswordEncoder;
import org.springframework.security.crypto.password.PasswordEncoder;

/** The demo company, where it is on the path and switched on. */
@AutoConfiguration
@ConditionalOnProperty("euthyna.demo")
@ComponentScan
class DemoConfiguration {

    /**
     * The least that BCrypt can: the passwords of the demo company are the names, which everybody knows, and its books
     * are never served.
     */
    @Bean
    @Primary
    PasswordEncoder passwordsThatAreNames() {
        return new BCryptPasswordEncoder(4);
    }
}
