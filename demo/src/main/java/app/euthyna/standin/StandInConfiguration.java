package app.euthyna.standin;

import org.springframework.boot.autoconfigure.AutoConfiguration;
import org.springframework.boot.autoconfigure.AutoConfigurationPackage;
import org.springframework.boot.autoconfigure.condition.ConditionalOnExpression;
import org.springframework.context.annotation.ComponentScan;

/** The stand-ins, where they are on the path and switched on; the demo company always has them. */
@AutoConfiguration
@AutoConfigurationPackage
@ConditionalOnExpression("${euthyna.demo} or ${euthyna.stand-ins}")
@ComponentScan
class StandInConfiguration {}
