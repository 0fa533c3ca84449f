package app.euthyna.server.approval;

import app.euthyna.core.approval.Level;
import app.euthyna.core.order.OrderKind;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.server.approval.ApprovalStore.StoredRule;
import app.euthyna.server.masterdata.MasterData;
import app.euthyna.server.order.OrderService;
import app.euthyna.server.order.OrderView;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.Commands;
import app.euthyna.server.platform.Permissions;
import app.euthyna.server.platform.RefusedException;
import jakarta.annotation.Nullable;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.PositiveOrZero;
import jakarta.validation.constraints.Size;
import java.math.BigDecimal;
import java.util.List;
import java.util.function.Consumer;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** Approvals over HTTP: the steps of a request, and the rules that ask for one. */
@RestController
@RequestMapping("/api")
class ApprovalController {

    private final ApprovalService approvals;
    private final Reminders reminders;
    private final ApprovalStore store;
    private final OrderService orders;
    private final MasterData masterData;
    private final Commands commands;

    ApprovalController(
            ApprovalService approvals,
            Reminders reminders,
            ApprovalStore store,
            OrderService orders,
            MasterData masterData,
            Commands commands) {
        this.approvals = approvals;
        this.reminders = reminders;
        this.store = store;
        this.orders = orders;
        this.masterData = masterData;
        this.commands = commands;
    }

    /** A step of a request; an approval needs no reason, sending back and recalling do. */
    record ApprovalStep(
            @NotNull Long version, @Size(max = 2000) String reason) {}

    /** A rule; {@code figure} is an amount or per cent, as its kind says. */
    record Rule(
            @NotNull StoredRule.Kind kind,
            @PositiveOrZero BigDecimal figure,
            @Nullable OrderKind orderKind,
            @NotNull Level level) {}

    record Rules(@NotNull @Size(max = 50) List<@Valid Rule> rules) {}

    @Permissions.Propose
    @PostMapping("/orders/{number}/approvals")
    OrderView approve(@PathVariable String number, @Valid @RequestBody ApprovalStep request, HttpServletRequest http) {
        return step(number, request, http, context -> approvals.approve(context, number, request.version()));
    }

    @Permissions.Propose
    @PostMapping("/orders/{number}/send-backs")
    OrderView sendBack(@PathVariable String number, @Valid @RequestBody ApprovalStep request, HttpServletRequest http) {
        return step(number, request, http, context -> approvals.sendBack(context, number, request.version()));
    }

    @Permissions.Propose
    @PostMapping("/orders/{number}/recalls")
    OrderView recall(@PathVariable String number, @Valid @RequestBody ApprovalStep request, HttpServletRequest http) {
        return step(number, request, http, context -> approvals.recall(context, number, request.version()));
    }

    record Reminded(List<String> told) {}

    record Reminder() {}

    /** Reminds those whose word an order waits for. */
    @Permissions.Propose
    @PostMapping("/orders/{number}/reminders")
    Reminded remind(@PathVariable String number, @Valid @RequestBody Reminder request, HttpServletRequest http) {
        return commands.run(http, request, Reminded.class, context -> new Reminded(reminders.remind(context, number)));
    }

    private OrderView step(
            String number, ApprovalStep request, HttpServletRequest http, Consumer<CommandContext> step) {
        return commands.run(http, request, OrderView.class, context -> {
            step.accept(context.because(request.reason()));
            return orders.view(number);
        });
    }

    /** The rules of the company. */
    @GetMapping("/approval-rules")
    Rules rules() {
        return shown(null);
    }

    @Permissions.KeepMasterData
    @PutMapping("/approval-rules")
    Rules write(@Valid @RequestBody Rules request, HttpServletRequest http) {
        return write(null, request, http);
    }

    /** A customer's own rules take the place of the company's, also where there are none. */
    @Permissions.KeepMasterData
    @PutMapping("/customers/{code}/approval-rules")
    Rules writeOwn(@PathVariable String code, @Valid @RequestBody Rules request, HttpServletRequest http) {
        masterData.customer(code);
        return write(code, request, http);
    }

    /** What holds for a customer: rules of its own, or the company's. */
    record CustomerRulesView(boolean own, List<Rule> rules) {}

    @GetMapping("/customers/{code}/approval-rules")
    CustomerRulesView rulesOf(@PathVariable String code) {
        masterData.customer(code);
        return new CustomerRulesView(
                store.hasOwn(code), shown(store.hasOwn(code) ? code : null).rules());
    }

    /** Takes a customer's own rules back: the company's hold for it again. */
    @Permissions.KeepMasterData
    @DeleteMapping("/customers/{code}/approval-rules")
    CustomerRulesView takeBackOwn(@PathVariable String code, HttpServletRequest http) {
        return commands.run(http, List.of(), CustomerRulesView.class, context -> {
            masterData.customer(code);
            store.write(code, null);
            return rulesOf(code);
        });
    }

    private Rules write(String customer, Rules request, HttpServletRequest http) {
        request.rules().forEach(ApprovalController::check);
        return commands.run(http, request, Rules.class, context -> {
            store.write(
                    customer,
                    request.rules().stream()
                            .map(r -> new StoredRule(r.kind(), r.figure(), r.orderKind(), r.level()))
                            .toList());
            return shown(customer);
        });
    }

    private static void check(Rule rule) {
        var needsFigure = rule.kind() == StoredRule.Kind.NET_ABOVE || rule.kind() == StoredRule.Kind.DISCOUNT_ABOVE;
        if (needsFigure && rule.figure() == null) {
            throw new RefusedException(
                    CommonRefusal.Incomplete.of("figure", "the amount or percentage above which approval is needed"));
        }
        if (rule.kind() == StoredRule.Kind.ORDER_KIND && rule.orderKind() == null) {
            throw new RefusedException(
                    CommonRefusal.Incomplete.of("orderKind", "the kind of order that needs approval"));
        }
    }

    private Rules shown(String customer) {
        return new Rules(store.rules(customer).stream()
                .map(r -> new Rule(r.kind(), r.figure(), r.orderKind(), r.level()))
                .toList());
    }
}
