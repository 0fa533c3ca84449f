import type { TypedOrder } from './api';

/*
 * What somebody has typed of a new order and not kept yet. A draft on the server needs a customer; until there is one, and should the
 * page be left by mistake, what was typed stays in this browser, for this user.
 */
const KEPT_AS = 1;
const key = (user: string) => `unfinished-order-${user}`;

export type Unfinished = { at: string; order: TypedOrder };

/** What was typed last and not kept; null where there is nothing, or where it was kept by an older form of the page. */
export function unfinished(user: string): Unfinished | null {
  try {
    const kept = JSON.parse(localStorage.getItem(key(user)) ?? 'null') as (Unfinished & { form: number }) | null;
    return kept?.form === KEPT_AS && Array.isArray(kept.order.lines) ? kept : null;
  } catch {
    return null;
  }
}

export function keepUnfinished(user: string, order: TypedOrder | null) {
  try {
    if (order) localStorage.setItem(key(user), JSON.stringify({ form: KEPT_AS, at: new Date().toISOString(), order }));
    else localStorage.removeItem(key(user));
  } catch {
    // a browser that keeps nothing still takes orders
  }
}
