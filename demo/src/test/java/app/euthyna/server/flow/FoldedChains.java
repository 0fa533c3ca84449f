package app.euthyna.server.flow;

import static org.assertj.core.api.Assertions.assertThat;

import app.euthyna.core.flow.Effect;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.EffectSink;
import java.util.List;
import java.util.concurrent.atomic.AtomicInteger;
import org.springframework.boot.test.context.TestConfiguration;
import org.springframework.core.annotation.Order;

/** After every command of the tests: a chain that followed its effects is the one that the tables hold. */
@TestConfiguration
@Order(1_000)
public class FoldedChains implements EffectSink {

    /** So many chains were compared. */
    public static final AtomicInteger COMPARED = new AtomicInteger();

    private final ChainReader chains;

    FoldedChains(ChainReader chains) {
        this.chains = chains;
    }

    @Override
    public void settle(CommandContext context, List<Effect> all) {
        // every chain that the command has looked at, not only those that its effects name
        chains.known().forEach(order -> {
            assertThat(chains.chain(order))
                    .isEqualTo(chains.stored(List.of(order)).get(order));
            COMPARED.incrementAndGet();
        });
    }
}
