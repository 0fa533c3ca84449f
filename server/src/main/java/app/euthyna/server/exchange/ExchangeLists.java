package app.euthyna.server.exchange;

import app.euthyna.server.lists.Column;
import app.euthyna.server.lists.Column.Trait;
import app.euthyna.server.lists.DeclaredList;
import app.euthyna.server.lists.DeclaredList.Sorting;
import app.euthyna.server.platform.Reading;
import java.util.List;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** The list of files of orders that were imported. */
@Configuration(proxyBeanMethods = false)
class ExchangeLists {

    /** As {@link OrderImport} tells of one file. */
    private static final String PROGRESS = """
            case when x.result is not null then 'DONE'
                when x.touchedAt < instant - %d second then 'BROKEN_OFF' else 'RUNNING' end""".formatted(OrderImport.SILENCE.toSeconds());

    @Bean
    static DeclaredList importsList() {
        return new DeclaredList(
                "imports",
                "Imports",
                "file",
                "files",
                "ImportLogEntity x",
                "x.id",
                List.of(),
                Reading.SELLING,
                Sorting.NEWEST_FIRST,
                List.of(
                        Column.text("file", "File", "x.fileName").with(Trait.SHOWN),
                        Column.moment("at", "Imported", "x.takenAt").with(Trait.SHOWN),
                        Column.text("by", "By", "x.takenBy").with(Trait.SHOWN, Trait.GROUPED),
                        Column.count("rows", "Rows", "x.rowsRead").with(Trait.SHOWN, Trait.SUMMED),
                        Column.count("orders", "Orders", "x.ordersFound").with(Trait.SHOWN, Trait.SUMMED),
                        Column.count("done", "Orders done", "x.ordersDone").with(Trait.SHOWN, Trait.SUMMED),
                        Column.words("progress", "Progress", PROGRESS, "DONE", "RUNNING", "BROKEN_OFF")
                                .with(Trait.SHOWN)));
    }
}
