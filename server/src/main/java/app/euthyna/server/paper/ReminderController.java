package app.euthyna.server.paper;

import app.euthyna.core.shared.DocumentKind;
import app.euthyna.server.batch.Batches;
import app.euthyna.server.platform.Permissions;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotEmpty;
import jakarta.validation.constraints.Size;
import java.util.List;
import java.util.function.UnaryOperator;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** Reminders to customers with invoices past due. */
@RestController
@RequestMapping("/api")
class ReminderController {

    private final Batches batches;

    ReminderController(Batches batches) {
        this.batches = batches;
    }

    record ReminderBatch(@NotEmpty @Size(max = 500) List<@NotBlank String> customers) {}

    /** Writes the reminder that customers are due, each on its own; they go to the Outbox. */
    @Permissions.Bill
    @PostMapping("/batches/reminders")
    Batches.BatchView remind(@Valid @RequestBody ReminderBatch request, HttpServletRequest http) {
        return batches.run(
                http,
                request,
                UnaryOperator.identity(),
                Batches.Kind.REMINDERS,
                () -> request.customers().stream()
                        .map(code ->
                                new Batches.Asked(DocumentKind.ORDER, code, new InvoiceReminding.AskedReminder(code)))
                        .toList());
    }
}
