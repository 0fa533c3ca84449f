package app.euthyna.server.proof;

import app.euthyna.core.shared.DocumentKind;
import app.euthyna.server.platform.Commands;
import app.euthyna.server.platform.Permissions;
import app.euthyna.server.proof.ProofRuns.RunView;
import app.euthyna.server.proof.ProofRuns.StatementView;
import jakarta.servlet.http.HttpServletRequest;
import java.util.List;
import org.springframework.transaction.annotation.Isolation;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** The proof over HTTP, and the seal. */
@RestController
@RequestMapping("/api/proofs")
class ProofController {

    private final ProofRuns runs;
    private final ChainProver chains;
    private final Commands commands;

    ProofController(ProofRuns runs, ChainProver chains, Commands commands) {
        this.runs = runs;
        this.chains = chains;
        this.commands = commands;
    }

    record StatementsView(List<StatementView> statements) {}

    @Permissions.Prove
    @PostMapping
    RunView run(HttpServletRequest http) {
        return commands.run(
                http,
                "proof",
                RunView.class,
                context -> runs.run(context.person().username()));
    }

    /** The newest run: what the seal shows. */
    @GetMapping("/latest")
    RunView latest() {
        return runs.latest();
    }

    /** The statements over the chain of a document, as it stands at one moment. */
    @GetMapping("/{kind}/{number}")
    @Transactional(readOnly = true, isolation = Isolation.SERIALIZABLE)
    StatementsView chain(@PathVariable DocumentKind kind, @PathVariable String number) {
        return new StatementsView(
                chains.prove(kind, number).stream().map(StatementView::of).toList());
    }
}
