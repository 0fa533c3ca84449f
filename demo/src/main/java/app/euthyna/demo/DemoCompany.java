package app.euthyna.demo;

import app.euthyna.core.shared.Role;
import app.euthyna.server.people.Deputies;
import app.euthyna.server.platform.CompanyClock;
import java.util.List;
import java.util.Random;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.stereotype.Component;

/**
 * Skerrywick Chandlery, invented: a wholesaler to boatyards, harbour trusts, sailing schools and ferry lines. Its story
 * is told through the same services that everybody uses, from a fixed seed, relative to the day it is opened.
 */
@Component
class DemoCompany {

    static final long SEED = 20_260_302L;
    private static final Logger LOG = LoggerFactory.getLogger(DemoCompany.class);
    private static final int DAYS = 150;

    private final DemoMasterData masterData;
    private final DemoLife life;
    private final DemoMultiplier multiplier;
    private final Deputies deputies;
    private final CompanyClock clock;
    /** About so many orders are lived through by the services; a larger company is made of copies of them. */
    private final int lifeSize;

    DemoCompany(
            DemoMasterData masterData,
            DemoLife life,
            DemoMultiplier multiplier,
            Deputies deputies,
            CompanyClock clock,
            @Value("${euthyna.demo-lived:500}") int lifeSize) {
        this.masterData = masterData;
        this.life = life;
        this.multiplier = multiplier;
        this.deputies = deputies;
        this.clock = clock;
        this.lifeSize = lifeSize;
    }

    record DemoUser(String username, String displayName, Role role) {}

    List<DemoUser> users() {
        return List.of(
                new DemoUser("clerk", "Una Birsay", Role.CLERK),
                new DemoUser("clerk2", "Rory Voe", Role.CLERK),
                new DemoUser("controller", "Isla Mennock", Role.CONTROLLER),
                new DemoUser("controller2", "Ewan Sallow", Role.CONTROLLER),
                new DemoUser("lead", "Morag Teasel", Role.LEAD),
                new DemoUser("warehouse", "Finn Larkin", Role.WAREHOUSE),
                new DemoUser("receivables", "Kirsty Orr", Role.RECEIVABLES),
                new DemoUser("auditor", "Neil Quarrie", Role.AUDITOR),
                new DemoUser("admin", "Ada Pellan", Role.ADMIN));
    }

    /** The lead will be away; said once there are users. */
    void absences() {
        var today = clock.today();
        deputies.away("lead", "controller2", today.plusDays(9), today.plusDays(16));
    }

    /** Opens the company with about so many orders; none leaves its master data out too. */
    void open(int count) {
        if (count == 0) {
            return;
        }
        var started = System.nanoTime();
        var today = clock.today();
        var start = today.minusDays(DAYS);
        var times = Math.max(1, count / lifeSize);
        var lived = count / times;
        try {
            clock.set(start);
            masterData.found(start, today, lived);
            life.live(new Random(SEED), start, today, Math.max(0, lived - 30));
        } finally {
            clock.reset();
        }
        if (times > 1) {
            LOG.info(
                    "{} orders were lived through in {} s; they are now multiplied by {}.",
                    lived,
                    (System.nanoTime() - started) / 1_000_000_000,
                    times);
            multiplier.multiply(times);
        }
        LOG.info("The demo company has {} orders after {} s.", count, (System.nanoTime() - started) / 1_000_000_000);
    }
}
