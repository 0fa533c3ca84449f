package app.euthyna.server.masterdata;

import java.time.LocalDate;
import java.util.Optional;
import java.util.concurrent.TimeoutException;

/** How the public register of licences is reached. Where nobody provides one, it gives no answer. */
public interface RegisterConnection {

    /**
     * To when a licence is valid; empty where the register does not know it.
     *
     * @throws TimeoutException where it gives no answer in time
     */
    Optional<LocalDate> look(String licenceClass, String number) throws TimeoutException;
}
