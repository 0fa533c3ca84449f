package app.euthyna.server.demo;

import app.euthyna.server.platform.Commands;
import jakarta.persistence.EntityManager;
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

    private final EntityManager entities;
    private final TransactionTemplate transactions;
    private final Commands commands;
    private final Desks.Sales sales;
    private final Desks.Store store;
    private final Desks.Office office;

    DemoLife(
            EntityManager entities,
            TransactionTemplate transactions,
            Commands commands,
            Desks.Sales sales,
            Desks.Store store,
            Desks.Office office) {
        this.entities = entities;
        this.transactions = transactions;
        this.commands = commands;
        this.sales = sales;
        this.store = store;
        this.office = office;
    }

    /**
     * Day by day: new orders, then whatever was put off to the day. Documents are numbered in the order of their dates.
     */
    void live(Random random, LocalDate start, LocalDate today, int ordinary) {
        var agenda = new Agenda(random, today);
        for (var story : List.of(
                new HeldStories(sales, store, office, agenda),
                new AgreedStories(sales, store, office, agenda),
                new StockStories(sales, store, office, agenda),
                new MoneyStories(sales, store, office, agenda),
                new UndoneStories(sales, store, office, agenda),
                new ReturnStories(sales, store, office, agenda),
                new EverydayStories(sales, store, office, agenda),
                new OrdinaryStories(sales, store, office, agenda, start, ordinary))) {
            story.tell();
        }
        for (var day = start; !day.isAfter(today); day = day.plusDays(1)) {
            office.clock().set(day);
            var deeds = agenda.of(day);
            while (!deeds.isEmpty()) {
                doSome(deeds);
            }
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
                // what is done with is let go of, or every later query would look through all of it for changes
                entities.flush();
                entities.clear();
            }
            return null;
        }));
    }
}
