package app.euthyna.server.paper;

import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Person;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.RefusedException;
import java.time.LocalDate;
import java.util.List;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/**
 * Puts documents on paper, one file for a selection, and sends them; whatever was on paper before is marked as a copy.
 */
@Service
class Printing {

    private final PaperQueries queries;
    private final Papers papers;
    private final Pdf pdf;
    private final Company company;

    Printing(PaperQueries queries, Papers papers, Pdf pdf, Company company) {
        this.queries = queries;
        this.papers = papers;
        this.pdf = pdf;
        this.company = company;
    }

    /** A document on paper; the first time it is no copy. */
    record Sheet(Paper paper, String number, int copy) {}

    /**
     * Notes that documents are put on paper together, in the sequence given; answers under which number their file is
     * kept.
     */
    @Transactional(propagation = Propagation.MANDATORY)
    public long print(CommandContext context, Paper paper, List<String> numbers) {
        paper.requireReader(context.person().role());
        var run = new PrintRunEntity();
        run.paper = paper.name();
        run.printedAt = company.now();
        run.printedBy = context.person().username();
        queries.session().insert(run);
        for (var number : numbers) {
            // whatever can't be put on paper is found before it is noted
            papers.of(paper, number, 0, context.date());
            var before = Math.toIntExact(queries.printed(paper.name(), number));
            var row = new PrintingEntity();
            row.runId = run.id;
            row.paper = paper.name();
            row.documentNumber = number;
            row.copyNo = before;
            queries.session().insert(row);
        }
        return run.id;
    }

    List<Sheet> sheets(long run) {
        var sheets = queries.sheets(run).stream()
                .map(row -> new Sheet(Paper.valueOf(row.paper()), row.documentNumber(), row.copyNo()))
                .toList();
        if (sheets.isEmpty()) {
            throw new RefusedException(new CommonRefusal.NotFound("print", String.valueOf(run)));
        }
        return sheets;
    }

    /** The file of all that was put on paper together, for somebody to read. */
    @Transactional(readOnly = true)
    public byte[] file(long run, Person reader) {
        var on = queries.printedAt(run)
                .map(at -> LocalDate.ofInstant(at, company.zone()))
                .orElse(company.today());
        var sheets = sheets(run);
        sheets.forEach(sheet -> sheet.paper().requireReader(reader.role()));
        return file(sheets, on);
    }

    /** Documents as they would be on paper; nothing is noted. */
    @Transactional(readOnly = true)
    public byte[] look(CommandContext context, Paper paper, List<String> numbers) {
        paper.requireReader(context.person().role());
        return file(
                numbers.stream()
                        .map(number -> new Sheet(paper, number, Papers.FOR_INSPECTION))
                        .toList(),
                context.today());
    }

    private byte[] file(List<Sheet> sheets, LocalDate on) {
        var title = sheets.size() == 1
                ? sheets.get(0).paper().title() + " " + sheets.get(0).number()
                : sheets.get(0).paper().title() + ", " + sheets.size() + " documents";
        return pdf.of(
                title,
                sheets.stream()
                        .map(sheet -> papers.of(sheet.paper(), sheet.number(), sheet.copy(), on))
                        .toList());
    }
}
