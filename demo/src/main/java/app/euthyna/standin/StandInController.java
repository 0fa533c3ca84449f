package app.euthyna.standin;

import app.euthyna.server.platform.Commands;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.Permissions;
import app.euthyna.server.platform.ReadBy;
import jakarta.annotation.Nullable;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import java.math.BigDecimal;
import java.time.LocalDate;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** Tells the stand-ins how to behave. */
@RestController
@RequestMapping("/api")
class StandInController {

    private final SimulatedPaymentService payments;
    private final SimulatedRegister register;
    private final StandInQueries queries;
    private final Commands commands;
    private final Company company;

    StandInController(
            SimulatedPaymentService payments,
            SimulatedRegister register,
            StandInQueries queries,
            Commands commands,
            Company company) {
        this.payments = payments;
        this.register = register;
        this.queries = queries;
        this.commands = commands;
        this.company = company;
    }

    record CarrierAnswers(boolean answers) {}

    /** Tells the simulated carrier to answer, or not to. */
    @Permissions.KeepMasterData
    @PutMapping("/simulated-carrier")
    CarrierAnswers answers(@Valid @RequestBody CarrierAnswers request, HttpServletRequest http) {
        return commands.run(http, request, CarrierAnswers.class, context -> {
            queries.letCarrierAnswer(request.answers());
            return request;
        });
    }

    /** What the simulated register answers for a licence; silent when {@code answers} is false. */
    record RegisterAnswer(
            @NotBlank String licenceClass, @NotBlank String number, LocalDate validTo, boolean answers) {}

    record LicenceNumber(String code) {}

    @Permissions.KeepMasterData
    @PostMapping("/simulated-register")
    LicenceNumber register(@Valid @RequestBody RegisterAnswer request, HttpServletRequest http) {
        return commands.run(http, request, LicenceNumber.class, context -> {
            register.enter(request.licenceClass(), request.number(), request.validTo(), request.answers());
            return new LicenceNumber(request.number());
        });
    }

    record ServiceBehaviour(@NotNull SimulatedPaymentService.Behaviour behaviour) {}

    /** The simulated payment service, and what it has paid out. */
    record SimulatedService(
            SimulatedPaymentService.Behaviour behaviour,
            long payouts,
            @Nullable @ReadBy(ReadBy.Group.SELLING) BigDecimal amount) {}

    @GetMapping("/simulated-payment-service")
    SimulatedService behaviour() {
        var paid = payments.paidOut();
        return new SimulatedService(
                payments.behaviour(), paid.count(), company.money(paid.amount()).amount());
    }

    /** Tells the simulated payment service how to behave. */
    @Permissions.KeepMasterData
    @PutMapping("/simulated-payment-service")
    ServiceBehaviour behave(@Valid @RequestBody ServiceBehaviour request, HttpServletRequest http) {
        return commands.run(http, request, ServiceBehaviour.class, context -> {
            payments.behave(request.behaviour());
            return request;
        });
    }
}
