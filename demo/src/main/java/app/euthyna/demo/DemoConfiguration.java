package app.euthyna.demo;

import org.springframework.boot.autoconfigure.AutoConfiguration;
import org.springframework.boot.autoconfigure.condition.ConditionalOnProperty;
import org.springframework.context.annotation.ComponentScan;

/** The demo company, where it is on the path and switched on. */
@AutoConfiguration
@ConditionalOnProperty("euthyna.demo")
@ComponentScan
class DemoConfiguration {}
