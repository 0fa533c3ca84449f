package app.euthyna.demo;

import app.euthyna.server.billing.PayoutJobs;
import app.euthyna.server.platform.Commands;
import java.time.LocalDate;
import java.util.Deque;
import java.util.List;
import java.util.Random;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Lives the company through from day to day: all that is told, each deed on its day, with the clock that the days move.
 */
@Component
class DemoLife {

    private static final Logger LOG = LoggerFactory.getLogger(DemoLife.class);
    /** So many deeds to a transaction: each small commit costs the same as a large one. */
    private static final int TOGETHER = 20;

    private final TransactionTemplate transactions;
    private final Commands commands;
    private final Desks desks;
    private final PayoutJobs payouts;

    DemoLife(TransactionTemplate transactions, Commands commands, Desks desks, PayoutJobs payouts) {
        this.payouts = payouts;
        this.transactions = transactions;
        this.commands = commands;
        this.desks = desks;
    }

    /**
     * Day by day: new orders, then whatever was put off to the day. Documents are numbered in the order of their dates.
     */
    void live(Random random, LocalDate start, LocalDate today, int ordinary) {
        var agenda = new Agenda(random, today);
        for (var story : List.of(
                new HeldStories(desks, agenda),
                new AgreedStories(desks, agenda),
                new StockStories(desks, agenda),
                new MoneyStories(desks, agenda),
                new ReceivablesStories(desks, agenda),
                new UndoneStories(desks, agenda),
                new ReturnStories(desks, agenda),
                new EverydayStories(desks, agenda),
                new OrdinaryStories(desks, agenda, start, ordinary))) {
            story.tell();
        }
        for (var day = start; !day.isAfter(today); day = day.plusDays(1)) {
            desks.office().clock().set(day);
            var deeds = agenda.of(day);
            while (!deeds.isEmpty()) {
                doSome(deeds);
            }
            payouts.sendNow();
            agenda.done(day);
            if (ordinary > 2_000 && day.getDayOfMonth() % 5 == 0) {
                LOG.info("The demo company has come to {}.", day);
            }
        }
    }

    private void doSome(Deque<Runnable> deeds) {
        commands.retrying(() -> transactions.execute(status -> {
            for (int at = 0; at < TOGETHER && !deeds.isEmpty(); at++) {
                deeds.remove().run();
            }
            return null;
        }));
    }
}
