/** A value that the screen only asks for once it is there; our own mistake where it is not. */
export function present<T>(value: T | null | undefined, what: string): T {
  if (value === null || value === undefined) throw new Error(`${what} is not there yet`);
  return value;
}
