/** A small HTTP client that signs in like a person. Start with {@link app.euthyna.e2e.client.Api}. */
package app.euthyna.e2e.client;
