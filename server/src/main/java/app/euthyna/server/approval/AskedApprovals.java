package app.euthyna.server.approval;

import app.euthyna.core.approval.ApprovalRule.Circumstances;
import app.euthyna.core.approval.Approving;
import app.euthyna.core.approval.Approving.Ask;
import app.euthyna.core.approval.GoodsForNothing;
import app.euthyna.core.check.Finding;
import app.euthyna.core.check.Severity;
import app.euthyna.core.order.Order;
import app.euthyna.core.order.OrderLine;
import app.euthyna.core.shared.RoleLimits;
import app.euthyna.server.flow.ChainReader;
import app.euthyna.server.masterdata.CompanyRulesStore;
import app.euthyna.server.masterdata.Item;
import app.euthyna.server.masterdata.MasterData;
import app.euthyna.server.people.People;
import app.euthyna.server.platform.Company;
import java.util.Collections;
import java.util.List;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/** What approvals an order asks for, by the rules and the circumstances. */
@Component
class AskedApprovals {

    private final ApprovalStore store;
    private final ChainReader chains;
    private final CompanyRulesStore rules;
    private final MasterData masterData;
    private final People people;
    private final Company company;

    AskedApprovals(
            ApprovalStore store,
            ChainReader chains,
            CompanyRulesStore rules,
            MasterData masterData,
            People people,
            Company company) {
        this.store = store;
        this.chains = chains;
        this.rules = rules;
        this.masterData = masterData;
        this.people = people;
        this.company = company;
    }

    List<Ask> of(Order order, List<Finding> findings) {
        var waived =
                findings.stream().anyMatch(f -> f.state() == Finding.State.WAIVED && f.severity() == Severity.STOP);
        return Approving.asked(
                order,
                store.rulesFor(order.customer()),
                new Circumstances(store.isFirst(order), waived, forNothing(order)));
    }

    private GoodsForNothing forNothing(Order order) {
        var limits = rules.inForce().limits().goodsForNothing();
        var free = GoodsForNothing.lines(order).map(OrderLine::item).collect(Collectors.toSet());
        if (limits.isEmpty() || free.isEmpty()) {
            return GoodsForNothing.UNLIMITED;
        }
        var before = givenBefore(order);
        before.forEach(given -> free.add(given.item()));
        return new GoodsForNothing(
                new RoleLimits(company.amounts(limits)),
                masterData.items(free).values().stream().collect(Collectors.toMap(Item::code, Item::price)),
                people.rolesOf(order.everyWriter()),
                before);
    }

    /** What the writers of an order gave its customer for nothing of late, by the day on which it was let go. */
    private List<GoodsForNothing.Given> givenBefore(Order order) {
        var numbers = store.givenBefore(order, company.today().minusDays(GoodsForNothing.DAYS_TOGETHER));
        var writers = order.everyWriter();
        return chains.chains(numbers).values().stream()
                .filter(chain -> !Collections.disjoint(chain.order().everyWriter(), writers))
                .flatMap(chain -> GoodsForNothing.lines(chain.order())
                        .map(line -> new GoodsForNothing.Given(
                                line.item(),
                                chain.flow(line.no())
                                        .ordered()
                                        .minus(chain.flow(line.no()).cancelled()))))
                .toList();
    }
}
