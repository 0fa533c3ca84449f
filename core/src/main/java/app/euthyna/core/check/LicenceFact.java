package app.euthyna.core.check;

import java.time.LocalDate;

/**
 * What is known of a customer's licence for a class of regulated goods.
 *
 * @param number empty when the customer gave none
 * @param validTo as the register says; null unless it was found
 * @param asked on which day the register was asked; null when there was no number to ask for
 * @param tries so many times it was asked in vain
 */
public record LicenceFact(
        String licenceClass, String number, Answer answer, LocalDate validTo, LocalDate asked, int tries) {

    /** What the register said, or that there was nothing to ask. */
    public enum Answer {
        NO_LICENCE,
        FOUND,
        NOT_FOUND,
        NO_ANSWER
    }

    public static LicenceFact none(String licenceClass) {
        return new LicenceFact(licenceClass, "", Answer.NO_LICENCE, null, null, 0);
    }
}
