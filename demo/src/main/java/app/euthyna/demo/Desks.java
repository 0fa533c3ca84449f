package app.euthyna.demo;

import app.euthyna.server.approval.ApprovalService;
import app.euthyna.server.billing.BillingService;
import app.euthyna.server.billing.Deposits;
import app.euthyna.server.billing.Disputes;
import app.euthyna.server.billing.Payments;
import app.euthyna.server.billing.WriteOffs;
import app.euthyna.server.check.CheckService;
import app.euthyna.server.check.QuotaStore;
import app.euthyna.server.flow.ChainReader;
import app.euthyna.server.goods.GoodsService;
import app.euthyna.server.goods.StockService;
import app.euthyna.server.masterdata.MasterData;
import app.euthyna.server.masterdata.PriceBreaks;
import app.euthyna.server.order.OrderService;
import app.euthyna.server.order.SalesAgreements;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.CompanyClock;
import app.euthyna.server.platform.Locks;
import app.euthyna.server.returns.CreditService;
import app.euthyna.server.returns.ReturnsService;
import app.euthyna.server.returns.UnexpectedService;
import app.euthyna.server.unwind.UnwindService;
import app.euthyna.standin.SimulatedRegister;
import org.springframework.stereotype.Component;

/** The desks of the company, at which its stories are told: the services that everybody uses. */
@Component
record Desks(Desks.Sales sales, Desks.Store store, Desks.Office office) {

    /** Where orders are entered and decided on. */
    @Component
    record Sales(
            OrderService orders,
            CheckService checks,
            ApprovalService approvals,
            SalesAgreements agreements,
            QuotaStore quotas,
            PriceBreaks prices) {}

    /** Where goods leave and come back. */
    @Component
    record Store(
            GoodsService goods,
            StockService stock,
            ReturnsService returns,
            CreditService credits,
            UnexpectedService unexpected,
            ChainReader chains,
            Locks locks) {}

    /** Where money and mistakes are dealt with. */
    @Component
    record Office(
            BillingService billing,
            Payments payments,
            Deposits deposits,
            WriteOffs writeOffs,
            Disputes disputes,
            UnwindService unwind,
            MasterData masterData,
            SimulatedRegister register,
            Company company,
            CompanyClock clock) {}
}
