package app.euthyna.standin;

import app.euthyna.server.check.DailyRecheck;
import app.euthyna.server.platform.CompanyClock;
import app.euthyna.server.platform.Permissions;
import io.swagger.v3.oas.annotations.Hidden;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import java.time.LocalDate;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.boot.autoconfigure.condition.ConditionalOnProperty;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/**
 * The clock of an instance of the demo company that was started for worked cases. No other has one that can be set:
 * there the address does not exist.
 */
@Hidden
@RestController
@RequestMapping("/api/clock")
@ConditionalOnProperty("euthyna.settable-clock")
class SettableClockController {

    private final CompanyClock clock;
    private final DailyRecheck recheck;

    SettableClockController(CompanyClock clock, DailyRecheck recheck, @Value("${euthyna.demo}") boolean demo) {
        if (!demo) {
            throw new IllegalStateException("Only the demo company may have a clock that can be set.");
        }
        this.clock = clock;
        this.recheck = recheck;
    }

    /** @param today empty for the real time */
    record Shown(LocalDate today) {}

    record Now(@NotNull LocalDate today) {}

    /** Sets the clock to the morning of a day; what passes by the clock has passed when it answers. */
    @Permissions.KeepMasterData
    @PutMapping
    Now set(@Valid @RequestBody Shown request) {
        if (request.today() == null) {
            clock.reset();
        } else {
            clock.set(request.today());
        }
        recheck.run(clock.today());
        return new Now(clock.today());
    }
}
