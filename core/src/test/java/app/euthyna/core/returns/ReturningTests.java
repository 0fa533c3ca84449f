package app.euthyna.core.returns;

import static app.euthyna.core.Given.TODAY;
import static app.euthyna.core.Given.eur;
import static app.euthyna.core.Given.line;
import static app.euthyna.core.Given.q;
import static app.euthyna.core.Given.stock;
import static app.euthyna.core.Sale.codes;
import static app.euthyna.core.Sale.ofDispatch;
import static org.assertj.core.api.Assertions.assertThat;

import app.euthyna.core.Rounds;
import app.euthyna.core.Sale;
import app.euthyna.core.billing.Billing;
import app.euthyna.core.flow.Chain;
import app.euthyna.core.flow.Return;
import app.euthyna.core.ledger.AccountRole;
import app.euthyna.core.order.LineKind;
import app.euthyna.core.order.OrderLine;
import app.euthyna.core.shared.LineRef;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Person;
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.shared.Role;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.Nested;
import org.junit.jupiter.api.Test;

class ReturningTests {

    /** Common practice: so many days after delivery; later it is for someone with the authority. */
    @Nested
    class WhatTheCompanyGrants {

        private final Sale sale = new Sale(stock(1, "A", "10", "9.99", "21"));

        WhatTheCompanyGrants() {
            sale.leave("D-1", Map.of(1, q(10)), Map.of(1, eur("40.00")));
        }

        @Test
        void afterSoManyDaysOnlyAControllerLetsGoodsComeBack() {
            assertThat(sale.ask("faulty", Sale.NO_EXCEPTION, 30, ofDispatch("D-1", 1, q(1)))
                            .isRefused())
                    .as("on the last day")
                    .isFalse();
            var late = sale.ask("faulty", Sale.NO_EXCEPTION, 31, ofDispatch("D-1", 1, q(1)));
            assertThat(codes(late)).isEqualTo("too-late");
            assertThat(late.refusals().get(0).sentence())
                    .contains("2 Mar 2026", "31 days ago", "return period is 30 days");
            assertThat(codes(sale.ask(
                            "faulty",
                            new ReturnPolicy.Exemption(new Person("clerk", Role.CLERK), "a good customer"),
                            31,
                            ofDispatch("D-1", 1, q(1)))))
                    .isEqualTo("not-authorised");
            assertThat(sale.ask(
                                    "faulty",
                                    new ReturnPolicy.Exemption(
                                            new Person("controller", Role.CONTROLLER), "a good customer"),
                                    31,
                                    ofDispatch("D-1", 1, q(1)))
                            .isRefused())
                    .isFalse();
        }

        @Test
        void aReasonIsOneOfTheCompanys() {
            assertThat(codes(sale.ask("full-moon", Sale.NO_EXCEPTION, 1, ofDispatch("D-1", 1, q(1)))))
                    .isEqualTo("incomplete");
            assertThat(codes(sale.ask("", Sale.NO_EXCEPTION, 1, ofDispatch("D-1", 1, q(1)))))
                    .isEqualTo("incomplete");
        }

        @Test
        void whatIsAllowedAndHasNotComeCountsToo() {
            sale.allowed("faulty", ofDispatch("D-1", 1, q(7)));
            assertThat(codes(sale.ask("faulty", Sale.NO_EXCEPTION, 1, ofDispatch("D-1", 1, q(4)))))
                    .isEqualTo("more-than-returnable");
            assertThat(codes(sale.ask(
                            "faulty", Sale.NO_EXCEPTION, 1, ofDispatch("D-1", 1, q(2)), ofDispatch("D-1", 1, q(2)))))
                    .as("asked for twice on one return")
                    .isEqualTo("more-than-returnable");
            assertThat(sale.ask("faulty", Sale.NO_EXCEPTION, 1, ofDispatch("D-1", 1, q(3)))
                            .isRefused())
                    .isFalse();
        }
    }

    /** Before the goods are here, where the reason says so; afterwards nothing is left to credit. */
    @Nested
    class CreditedAhead {

        private final Sale sale = new Sale(stock(1, "A", "3", "9.99", "21"));

        CreditedAhead() {
            sale.leave("D-1", Map.of(1, q(3)), Map.of(1, eur("10.00")));
        }

        @Test
        void onlyForReasonsThatGrantIt() {
            var invoice = sale.bill();
            var unwanted = sale.allowed("unwanted", ofDispatch("D-1", 1, q(1)));
            assertThat(codes(sale.creditAhead(unwanted))).isEqualTo("not-here-yet");
            assertThat(codes(sale.credit(unwanted, "0"))).as("nothing is here").isEqualTo("more-than-creditable");
            var faulty = sale.allowed("faulty", ofDispatch("D-1", 1, q(2)));
            assertThat(sale.creditAhead(faulty).isRefused()).isFalse();
            assertThat(sale.credited(invoice.number())).as("2 x 9.99, VAT 4.20").isEqualTo(eur("24.18"));
            assertThat(codes(sale.creditAhead(faulty))).as("once").isEqualTo("more-than-creditable");
            assertThat(codes(Returning.withdraw(sale.now(faulty), sale.chain().credits())))
                    .isEqualTo("already-credited");
            assertThat(Crediting.ahead(
                            sale.now(faulty),
                            sale.now(faulty).line(1),
                            sale.chain().credits()))
                    .isEqualTo(q(2));
            sale.receive(faulty, new Returning.Came(1, q(1)));
            assertThat(Crediting.ahead(
                            sale.now(faulty),
                            sale.now(faulty).line(1),
                            sale.chain().credits()))
                    .as("one has come")
                    .isEqualTo(q(1));
            assertThat(codes(Returning.inspect(
                            sale.now(faulty),
                            List.of(new Returning.InspectionLine(1, Return.Outcome.Kind.SEND_BACK, q(1), "", "")),
                            sale.chain().credits(),
                            TODAY)))
                    .as("who has the money does not get the goods")
                    .isEqualTo("already-credited");
            sale.receive(faulty);
            assertThat(codes(sale.credit(faulty, "0"))).isEqualTo("more-than-creditable");
            assertThat(sale.chain().flow(1).credited()).isEqualTo(q(2));
        }

        /**
         * Two of three are billed; what was credited is what comes back, though goods that were not billed would come
         * first.
         */
        @Test
        void whatComesIsWhatWasCredited() {
            sale.bill(new Billing.Share(new LineRef("SO-1", 1), q(2)));
            var goods = sale.allowed("faulty", ofDispatch("D-1", 1, q(3)));
            assertThat(sale.creditAhead(goods).isRefused()).isFalse();
            sale.receive(goods, new Returning.Came(1, q(2)));
            assertThat(sale.now(goods).line(1).parts())
                    .extracting(Return.Part::standing)
                    .containsExactly(Return.Standing.BILLED);
            assertThat(sale.chain().flow(1).toBill())
                    .as("the third is still to be billed")
                    .isEqualTo(q(1));
            sale.receive(goods);
            assertThat(sale.chain().flow(1).toBill()).isEqualTo(q(0));
            assertThat(sale.ledger().get(AccountRole.GOODS_IN_INSPECTION)).isEqualTo(eur("10.00"));
            assertThat(sale.ledger().get(AccountRole.COGS)).isEqualTo(eur("0.00"));
            assertThat(sale.ledger().get(AccountRole.GOODS_OUT)).isEqualTo(eur("0.00"));
        }
    }

    /**
     * Freight goes back in the proportion of the goods, and a fee is retained of them: both by slices. Figures worked
     * out manually.
     */
    @Nested
    class FreightAndFee {

        private final Sale sale =
                new Sale(stock(1, "A", "3", "9.99", "21"), line(2, LineKind.CHARGE, "F", "1", "10.00", "21"));

        FreightAndFee() {
            sale.leave("D-1", Map.of(1, q(3)), Map.of(1, eur("10.00")));
        }

        @Test
        void comeToTheFreightOfTheWhole() {
            var invoice = sale.bill();
            var shares = new ArrayList<String>();
            for (int time = 0; time < 3; time++) {
                var goods = sale.allowed("faulty", ofDispatch("D-1", 1, q(1)));
                sale.receive(goods);
                var lines = sale.credit(goods, "10").get().get(0).credit().lines();
                assertThat(lines)
                        .hasSize(2)
                        .allSatisfy(l -> assertThat(l.fee().isZero())
                                .as("a faulty thing costs the customer nothing")
                                .isTrue());
                shares.add(lines.get(1).net().amount().toPlainString());
            }
            assertThat(shares).as("10.00 in three").containsExactly("3.33", "3.34", "3.33");
            assertThat(sale.credited(invoice.number()))
                    .as("all of the invoice, to the cent")
                    .isEqualTo(invoice.totals().gross());
            assertThat(sale.ledger().get(AccountRole.RECEIVABLES)).isEqualTo(eur("0.00"));
            assertThat(sale.ledger().get(AccountRole.OUTPUT_VAT)).isEqualTo(eur("0.00"));
        }

        @Test
        void areNotMoreThanIsLeftOfTheFreight() {
            var invoice = sale.bill();
            sale.happen(Crediting.credit(
                            invoice,
                            List.of(),
                            List.of(Crediting.Share.of(2, eur("4.00"))),
                            eur("48.36"),
                            new Crediting.Terms(() -> "C-0", TODAY, "late", BigDecimal.ZERO, false))
                    .get());
            var goods = sale.allowed("faulty", ofDispatch("D-1", 1, q(3)));
            sale.receive(goods);
            assertThat(sale.credit(goods, "0")
                            .get()
                            .get(0)
                            .credit()
                            .lines()
                            .get(1)
                            .net())
                    .isEqualTo(eur("6.00"));
            assertThat(sale.credited(invoice.number()))
                    .isEqualTo(invoice.totals().gross());
        }

        @Test
        void areKeptBackBySlices() {
            sale.bill();
            var fees = new ArrayList<String>();
            for (int time = 0; time < 3; time++) {
                var goods = sale.allowed("unwanted", ofDispatch("D-1", 1, q(1)));
                sale.receive(goods);
                var lines = sale.credit(goods, "15").get().get(0).credit().lines();
                assertThat(lines)
                        .as("what is not wanted brings no freight back")
                        .hasSize(1);
                fees.add(lines.get(0).fee().amount().toPlainString());
            }
            assertThat(fees)
                    .as("15 % of 29.97 is 4.50; of 9.99 it is 1.4985, of 19.98 2.997")
                    .containsExactly("1.50", "1.50", "1.50");
            assertThat(sale.chain().credits().stream()
                            .map(c -> c.totals().net())
                            .reduce(eur("0.00"), Money::plus))
                    .isEqualTo(eur("25.47"));
        }
    }

    /**
     * Merchandise sold and taken back under a perpetual inventory: OpenStax, Principles of Accounting, volume 1,
     * chapter 6 (entries for the sale of merchandise). The figures come from memory: ten hardware packages at 1,200
     * that cost 620 each, six of them come back and can be sold again. The book knows no VAT here and no goods in
     * inspection; once they are restocked nothing is left there.
     */
    @Test
    void salesReturnsUnderAPerpetualInventory() {
        var sale = new Sale(stock(1, "PACKAGE", "10", "1200", "0"));
        sale.leave("D-1", Map.of(1, q(10)), Map.of(1, eur("6200.00")));
        sale.bill();
        assertThat(sale.ledger())
                .containsEntry(AccountRole.RECEIVABLES, eur("12000.00"))
                .containsEntry(AccountRole.REVENUE, eur("-12000.00"))
                .containsEntry(AccountRole.COGS, eur("6200.00"))
                .containsEntry(AccountRole.INVENTORY, eur("-6200.00"))
                .containsEntry(AccountRole.GOODS_OUT, eur("0.00"));
        var goods = sale.allowed("unwanted", ofDispatch("D-1", 1, q(6)));
        sale.receive(goods);
        sale.restock(goods);
        sale.credit(goods, "0");
        assertThat(sale.ledger())
                .as("sales returns and allowances 7,200 to receivables; inventory 3,720 from cost of goods sold")
                .containsEntry(AccountRole.SALES_RETURNS, eur("7200.00"))
                .containsEntry(AccountRole.RECEIVABLES, eur("4800.00"))
                .containsEntry(AccountRole.INVENTORY, eur("-2480.00"))
                .containsEntry(AccountRole.COGS, eur("2480.00"))
                .containsEntry(AccountRole.REVENUE, eur("-12000.00"))
                .containsEntry(AccountRole.GOODS_IN_INSPECTION, eur("0.00"));
    }

    /**
     * Over random sales: what comes back and is credited piece by piece, in any order and mixed with other pieces,
     * leaves every balance, every invoice's credit and every order line as if all had come back at once. Every piece is
     * worth a cent at least: less is not credited by itself.
     */
    @Test
    void pieceByPieceInAnyOrderLeavesTheSameAsAtOnce() {
        var seed = Long.getLong("seed", System.nanoTime());
        System.out.println("returns piece by piece from seed " + seed + " (-Dseed=" + seed + " runs them again)");
        var pieces = 0;
        for (int round = 0; round < Rounds.of(2_000); round++) {
            var name = "seed " + seed + ", round " + round;
            var random = new Random(seed + round);
            var atOnce = sold(new Random(seed + round));
            var wanted = wanted(atOnce, random);
            var reason = random.nextBoolean() ? "faulty" : "unwanted";
            var all = atOnce.allowed(
                    reason,
                    wanted.entrySet().stream()
                            .map(e -> new Returning.OfDispatch(e.getKey(), e.getValue()))
                            .toArray(Returning.OfDispatch[]::new));
            atOnce.receive(all);
            atOnce.restock(all);
            atOnce.credit(all, "12.5");

            var slowly = sold(new Random(seed + round));
            pieces += pieceByPiece(slowly, wanted, reason, random);
            stand(name, slowly, atOnce, reason.equals("faulty") && wholly(wanted, atOnce.chain()));
        }
        assertThat(pieces).isGreaterThan(Rounds.of(20_000));
    }

    /** Of every line that left all, or some. */
    private static Map<LineRef, Quantity> wanted(Sale sold, Random random) {
        var wanted = new HashMap<LineRef, Quantity>();
        for (var dispatch : sold.chain().dispatches()) {
            dispatch.lines()
                    .forEach(line -> wanted.put(
                            new LineRef(dispatch.number(), line.no()),
                            random.nextInt(3) == 0
                                    ? twentieths(1
                                            + random.nextInt(
                                                    20 * line.quantity().value().intValueExact()))
                                    : line.quantity()));
        }
        return wanted;
    }

    /** Allows, takes in, inspects and credits what is wanted, some of it at a time; answers in how many pieces. */
    private static int pieceByPiece(Sale slowly, Map<LineRef, Quantity> wanted, String reason, Random random) {
        var pieces = 0;
        var open = new ArrayList<Return>();
        var left = new HashMap<>(wanted);
        while (!left.isEmpty()
                || open.stream().anyMatch(goods -> slowly.now(goods).expectsMore())) {
            pieces++;
            if (!left.isEmpty() && random.nextInt(3) == 0) {
                var ref = List.copyOf(left.keySet()).get(random.nextInt(left.size()));
                var piece = left.get(ref).min(twentieths(1 + random.nextInt(80)));
                open.add(slowly.allowed(reason, new Returning.OfDispatch(ref, piece)));
                left.compute(ref, (r, rest) -> rest.minus(piece).isZero() ? null : rest.minus(piece));
            } else if (!open.isEmpty()) {
                var goods = slowly.now(open.get(random.nextInt(open.size())));
                switch (random.nextInt(3)) {
                    case 0 ->
                        goods.lines().stream()
                                .filter(l -> goods.expected(l).isPositive())
                                .findFirst()
                                .ifPresent(l -> slowly.receive(
                                        goods,
                                        new Returning.Came(
                                                l.no(), goods.expected(l).min(twentieths(1 + random.nextInt(60))))));
                    case 1 -> slowly.restock(goods);
                    default -> slowly.credit(goods, "12.5");
                }
            }
        }
        open.forEach(slowly::restock);
        open.forEach(goods -> slowly.credit(goods, "12.5"));
        return pieces;
    }

    /** Both sales stand alike. */
    private static void stand(String name, Sale slowly, Sale atOnce, boolean wholeBack) {
        assertThat(slowly.ledger()).as(name).isEqualTo(atOnce.ledger());
        assertThat(slowly.chain().flows()).as(name).isEqualTo(atOnce.chain().flows());
        for (var invoice : atOnce.chain().invoices()) {
            assertThat(slowly.credited(invoice.number()))
                    .as("%s: credited of %s", name, invoice.number())
                    .isEqualTo(atOnce.credited(invoice.number()));
            if (wholeBack) {
                assertThat(slowly.credited(invoice.number()))
                        .as("%s: all of %s", name, invoice.number())
                        .isEqualTo(invoice.totals().gross());
            }
        }
        // goods that cost nothing come back without an entry
        assertThat(slowly.ledger().getOrDefault(AccountRole.GOODS_IN_INSPECTION, eur("0.00")))
                .as(name)
                .isEqualTo(eur("0.00"));
        assertThat(slowly.ledger().getOrDefault(AccountRole.INVENTORY, eur("0.00")))
                .as("%s: no more comes back than left", name)
                .isLessThanOrEqualTo(eur("0.00"));
    }

    private static Quantity twentieths(int count) {
        return new Quantity(BigDecimal.valueOf(count * 5L, 2));
    }

    private static boolean wholly(Map<LineRef, Quantity> wanted, Chain chain) {
        return chain.dispatches().stream()
                .allMatch(d -> d.lines().stream()
                        .allMatch(
                                l -> wanted.get(new LineRef(d.number(), l.no())).equals(l.quantity())));
    }

    /**
     * Up to three lines of goods in up to three dispatches, billed in up to three invoices, some with freight; at times
     * not all is billed.
     */
    private static Sale sold(Random random) {
        var lines = new ArrayList<OrderLine>();
        for (int no = 1; no <= 1 + random.nextInt(3); no++) {
            lines.add(stock(
                    no,
                    "A" + no,
                    String.valueOf(1 + random.nextInt(9)),
                    BigDecimal.valueOf(10_000 + random.nextInt(999_999), 4).toPlainString(),
                    List.of("9", "21").get(random.nextInt(2))));
        }
        if (random.nextBoolean()) {
            lines.add(line(
                    lines.size() + 1,
                    LineKind.CHARGE,
                    "F",
                    "1",
                    BigDecimal.valueOf(1 + random.nextInt(5_000), 2).toPlainString(),
                    "21"));
        }
        var sale = new Sale(lines.toArray(OrderLine[]::new));
        for (int at = 1; at <= 3; at++) {
            var quantities = new HashMap<Integer, Quantity>();
            var costs = new HashMap<Integer, Money>();
            for (var flow : sale.chain().flows()) {
                if (flow.line().kind() == LineKind.STOCK && flow.toShip().isPositive()) {
                    quantities.put(
                            flow.line().no(),
                            at == 3 ? flow.toShip() : flow.toShip().min(q(1 + random.nextInt(5))));
                    costs.put(
                            flow.line().no(),
                            Money.rounded(BigDecimal.valueOf(random.nextInt(100_000), 3), app.euthyna.core.Given.EUR));
                }
            }
            if (!quantities.isEmpty()) {
                sale.leave("D-" + at, quantities, costs);
            }
            if (random.nextInt(3) > 0
                    && sale.chain().flows().stream()
                            .anyMatch(flow -> flow.toBill().isPositive())) {
                sale.bill();
            }
        }
        return sale;
    }
}
