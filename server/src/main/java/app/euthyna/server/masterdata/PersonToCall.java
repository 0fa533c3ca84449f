package app.euthyna.server.masterdata;

/**
 * Whom to call or write to at a customer (EN 16931, BG-9: contact point, telephone number, mail address); each empty
 * where it is not known.
 */
public record PersonToCall(String name, String phone, String email) {}
