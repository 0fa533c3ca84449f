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
import org.springframework.web.bind.annotation.RestController;

/** Letters that ask for goods which were allowed back and have not come; they go to the Outbox. */
@RestController
class ReturnReminders {

    private final Batches batches;

    ReturnReminders(Batches batches) {
        this.batches = batches;
    }

    record RemindedReturns(@NotEmpty @Size(max = 500) List<@NotBlank String> returns) {}

    @Permissions.Propose
    @PostMapping("/api/batches/return-reminders")
    Batches.BatchView remind(@Valid @RequestBody RemindedReturns request, HttpServletRequest http) {
        return batches.run(
                http,
                request,
                UnaryOperator.identity(),
                Batches.Kind.RETURN_REMINDERS,
                () -> request.returns().stream()
                        .map(number ->
                                new Batches.Asked(DocumentKind.RETURN, number, new ReturnReminding.AskedReturn(number)))
                        .toList());
    }
}
