package app.euthyna.server.goods;

import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.server.batch.BatchWork;
import app.euthyna.server.batch.Batches;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.Many;
import app.euthyna.server.platform.Records;
import app.euthyna.server.platform.Right;
import java.util.Optional;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/** What staging and sending off do as one of many. */
final class GoodsWork {

    private GoodsWork() {}

    @Component
    static class StagingWork implements BatchWork {

        private final GoodsService goods;

        StagingWork(GoodsService goods) {
            this.goods = goods;
        }

        @Override
        public Batches.Kind kind() {
            return Batches.Kind.STAGING;
        }

        @Override
        public Done carryOut(CommandContext context, String request) {
            var one = Records.read(request, GoodsBatchController.StagedOne.class);
            var number = goods.stage(
                    context,
                    one.order(),
                    one.version(),
                    one.whenShort() == null ? GoodsService.ShortageChoice.SHIP_RESERVED : one.whenShort());
            return new Done(new DocumentRef(DocumentKind.DISPATCH, number), "");
        }
    }

    @Component
    static class DepartureWork implements BatchWork {

        private final GoodsService goods;
        private final DispatchQueries queries;

        DepartureWork(GoodsService goods, DispatchQueries queries) {
            this.goods = goods;
            this.queries = queries;
        }

        @Override
        public Batches.Kind kind() {
            return Batches.Kind.DEPARTURE;
        }

        /** What was staged is sent off, as far as it still is. */
        @Override
        public Optional<Following> following() {
            return Optional.of(new Following(
                    Batches.Kind.STAGING,
                    Right.MOVE_GOODS,
                    numbers -> queries.staged(Many.names(numbers)).stream()
                            .map(row -> new GoodsBatchController.SentOne(row.number(), row.version()))
                            .map(one -> new Batches.Asked(DocumentKind.DISPATCH, one.dispatch(), one))
                            .toList()));
        }

        @Override
        public Done carryOut(CommandContext context, String request) {
            var one = Records.read(request, GoodsBatchController.SentOne.class);
            var falls = goods.falls(one.dispatch());
            goods.depart(context, one.dispatch(), one.version());
            return new Done(
                    new DocumentRef(DocumentKind.DISPATCH, one.dispatch()),
                    falls.stream()
                            .map(f -> "%s falls to %s, under its minimum of %s"
                                    .formatted(
                                            f.item(),
                                            f.left().toPlainString(),
                                            f.minimum().toPlainString()))
                            .collect(Collectors.joining("; ")));
        }
    }
}
