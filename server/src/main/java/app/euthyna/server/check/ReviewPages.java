package app.euthyna.server.check;

import app.euthyna.core.check.Check;
import app.euthyna.server.check.ReviewViews.ReasonCount;
import app.euthyna.server.check.ReviewViews.ReasonView;
import app.euthyna.server.check.ReviewViews.ReviewPage;
import app.euthyna.server.check.ReviewViews.ReviewRow;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.Many;
import app.euthyna.server.platform.Pages;
import jakarta.annotation.Nullable;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/** A page of the review list, with the reasons of each order and the sums of all. */
@Component
class ReviewPages {

    private final ReviewList list;
    private final ReviewQueries queries;
    private final Clearance clearance;
    private final Company company;

    ReviewPages(ReviewList list, ReviewQueries queries, Clearance clearance, Company company) {
        this.list = list;
        this.queries = queries;
        this.clearance = clearance;
        this.company = company;
    }

    ReviewPage page(
            ReviewController.Sort sort,
            @Nullable ReviewController.Only only,
            @Nullable String reason,
            @Nullable Pages.Key after) {
        var rows = list.page(sort, only, reason, after, company.today());
        var page = Pages.of(
                rows,
                row -> List.of(
                        row.priority().toPlainString(), row.requestedOn().toString(), String.valueOf(row.order())));
        var totals = queries.totals();
        return new ReviewPage(
                withReasons(page.rows()),
                page.next(),
                totals.held(),
                totals.awaiting(),
                totals.count() - totals.held() - totals.awaiting(),
                company.money(totals.openGross()).amount(),
                reasons());
    }

    private List<ReasonCount> reasons() {
        return queries.reasons().stream()
                .map(row -> new ReasonCount(
                        row.checkCode(), Check.of(row.checkCode()).orElseThrow().title(), row.count()))
                .sorted(Comparator.comparing(ReasonCount::orders).reversed().thenComparing(ReasonCount::check))
                .toList();
    }

    private record Reason(long order, LocalDate since, ReasonView view) {}

    private List<ReviewRow> withReasons(List<ReviewList.Row> rows) {
        if (rows.isEmpty()) {
            return List.of();
        }
        var orders = rows.stream().map(ReviewList.Row::order).toList();
        var reasons = queries.reasonsOf(Many.ids(orders)).stream()
                .map(row -> new Reason(
                        row.orderId(), row.since(), new ReasonView(row.checkCode(), row.severity(), row.brief())))
                .collect(Collectors.groupingBy(Reason::order));
        var waiting = clearance.waiting(orders);
        return rows.stream()
                .map(row -> {
                    var own = new ArrayList<>(reasons.getOrDefault(row.order(), List.of()));
                    if (waiting.containsKey(row.order())) {
                        own.add(
                                0,
                                new Reason(
                                        row.order(),
                                        waiting.get(row.order()).since(),
                                        new ReasonView(
                                                "approval",
                                                "AWAITING",
                                                waiting.get(row.order()).brief())));
                    }
                    return new ReviewRow(
                            row.number(),
                            row.customer(),
                            row.customerName(),
                            row.state().name(),
                            company.money(row.openGross()).amount(),
                            row.requestedOn(),
                            own.stream()
                                    .map(Reason::since)
                                    .min(LocalDate::compareTo)
                                    .orElse(null),
                            own.stream().map(Reason::view).toList());
                })
                .toList();
    }
}
