/**
 * Users, their roles and their sign-in. Start with {@link app.euthyna.server.people.SessionController}. Uses
 * {@code platform}.
 */
package app.euthyna.server.people;
