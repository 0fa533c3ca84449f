import { TextLine } from './fields';
/** Reasons that were given since the page was opened: they are offered again, since many cases are alike. */
const given: string[] = [];

/** A line for a reason, with those given before to choose from. */
export function ReasonInput({
  id,
  value,
  autoFocus,
  last,
  onChange,
}: {
  id: string;
  value: string;
  autoFocus?: boolean;
  last?: boolean;
  onChange: (to: string) => void;
}) {
  return (
    <>
      <TextLine
        id={id}
        data-autofocus={!last || undefined}
        autoFocus={autoFocus}
        list={`${id}-given`}
        autoComplete="off"
        value={value}
        maxLength={2000}
        onChange={onChange}
      />
      <datalist id={`${id}-given`}>
        {given.map((one) => (
          <option key={one} value={one} />
        ))}
      </datalist>
    </>
  );
}

/** Keeps a reason to be offered again. */
export const keepReason = (reason: string) => {
  if (reason && !given.includes(reason)) given.unshift(reason);
  given.splice(8);
};
