/** Something that a document is there for, as the server says it. */
type Offered<A extends string> = { action: A; refused: string | null };

/** What is offered of a document, by its name. */
export const offersOf = <A extends string>(actions: readonly Offered<A>[]) => {
  const named = (action: A) => actions.find((one) => one.action === action);
  return {
    /** The document is there for it, whether or not whoever looks can do it. */
    has: (action: A) => !!named(action),
    /** Whoever looks can do it. */
    can: (action: A) => named(action)?.refused === null,
    /** Why not, where the document is there for it. */
    why: (action: A) => named(action)?.refused ?? undefined,
  };
};
