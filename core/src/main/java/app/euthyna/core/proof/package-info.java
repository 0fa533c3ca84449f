/** The statements that hold at every moment (section 12). Reads all; nothing uses it. Start with {@link ChainProof}. */
package app.euthyna.core.proof;
