package app.euthyna.standin;

import app.euthyna.server.masterdata.RegisterConnection;
import java.time.LocalDate;
import java.util.Optional;
import java.util.concurrent.TimeoutException;
import org.hibernate.StatelessSession;
import org.springframework.stereotype.Component;

/** Stands in for the public register of licences: it knows what was entered for it, and can be told to be silent. */
@Component
public class SimulatedRegister implements RegisterConnection {

    private final StandInQueries queries;
    private final StatelessSession session;

    SimulatedRegister(StandInQueries queries, StatelessSession session) {
        this.queries = queries;
        this.session = session;
    }

    @Override
    public Optional<LocalDate> look(String licenceClass, String number) throws TimeoutException {
        var row = queries.registered(licenceClass, number);
        if (row.isPresent() && !row.get().answers()) {
            throw new TimeoutException("no answer in time");
        }
        return row.map(StandInQueries.RegisteredRow::validTo);
    }

    /** Enters what it is to answer for a licence; silent unless {@code answers}. */
    public void enter(String licenceClass, String number, LocalDate validTo, boolean answers) {
        var row = new SimulatedRegisterEntity();
        row.licenceClass = licenceClass;
        row.number = number;
        row.validTo = validTo;
        row.answers = answers;
        session.upsert(row);
    }
}
