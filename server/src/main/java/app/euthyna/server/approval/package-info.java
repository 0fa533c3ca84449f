/**
 * Requests for approval: which rules ask for them, who has agreed to what, and the decisions. Start with
 * {@link app.euthyna.server.approval.ApprovalService}. Uses {@code platform} to {@code check}.
 */
package app.euthyna.server.approval;
