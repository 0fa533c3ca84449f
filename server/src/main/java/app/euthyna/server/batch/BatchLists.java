package app.euthyna.server.batch;

import app.euthyna.server.lists.Column;
import app.euthyna.server.lists.Column.Trait;
import app.euthyna.server.lists.DeclaredList;
import app.euthyna.server.lists.DeclaredList.Sorting;
import app.euthyna.server.platform.Reading;
import java.util.List;
import java.util.stream.Stream;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** The list of work that was done many times over at once. */
@Configuration(proxyBeanMethods = false)
class BatchLists {

    private static String count(String state) {
        return "(select count(ent.no) from BatchEntryEntity ent where ent.batchId = x.id and ent.state = '%s')"
                .formatted(state);
    }

    @Bean
    static DeclaredList batchesList() {
        return new DeclaredList(
                "batches",
                "Bulk work",
                "run",
                "runs",
                "BatchEntity x",
                "x.id",
                List.of(),
                Reading.BUSINESS,
                Sorting.NEWEST_FIRST,
                List.of(
                        Column.words(
                                        "kind",
                                        "Kind",
                                        "x.kind",
                                        Stream.of(Batches.Kind.values())
                                                .map(Enum::name)
                                                .toArray(String[]::new))
                                .with(Trait.SHOWN),
                        Column.moment("at", "Asked", "x.askedAt").with(Trait.SHOWN),
                        Column.text("by", "By", "x.askedBy").with(Trait.SHOWN, Trait.GROUPED),
                        Column.text("reason", "Reason", "x.reason").with(Trait.SHOWN),
                        Column.count("done", "Done", count("DONE")).with(Trait.SHOWN, Trait.SUMMED),
                        Column.count("refused", "Refused", count("REFUSED")).with(Trait.SHOWN, Trait.SUMMED),
                        Column.count("waiting", "Waiting", count("WAITING")).with(Trait.SHOWN, Trait.SUMMED),
                        Column.count("leftOut", "Left out", count("LEFT_OUT")).with(Trait.SUMMED),
                        Column.flag("stopped", "Stopped", "x.stoppedAt is not null")));
    }
}
