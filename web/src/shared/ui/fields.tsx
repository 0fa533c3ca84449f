import { Input } from '@mantine/core';
import { createContext, useContext, type ComponentPropsWithRef, type ReactNode } from 'react';

/** Whether something is wrong with the field that a control stands in. */
const Wrong = createContext(false);

/** What a control says of that to whoever does not see it. */
export const useInvalid = () => useContext(Wrong) || undefined;

/** A label with its control below it, and what is wrong with what it says. */
export function Field({
  of,
  label,
  className = '',
  hidden,
  wrong,
  error,
  children,
}: {
  /** the id of the control */
  of?: string;
  label: ReactNode;
  className?: string;
  hidden?: boolean;
  wrong?: boolean;
  /** what is wrong, in words */
  error?: ReactNode;
  children: ReactNode;
}) {
  return (
    <Input.Wrapper
      unstyled
      id={of}
      label={label}
      hidden={hidden}
      className={`field ${className}${wrong || error ? ' wrong' : ''}`}
      error={error}
      errorProps={{ className: 'wrong-words' }}
    >
      <Wrong value={!!(wrong || error)}>{children}</Wrong>
    </Input.Wrapper>
  );
}

type Plain<T extends 'input' | 'select'> = Omit<ComponentPropsWithRef<T>, 'value' | 'onChange' | 'size'>;

/** A line of text. */
export function TextLine({
  className,
  onChange,
  ...rest
}: Plain<'input'> & { value: string; onChange: (to: string) => void }) {
  return (
    <Input
      unstyled
      error={useInvalid()}
      classNames={{ wrapper: 'no-box', input: className ?? '' }}
      onChange={(event) => onChange(event.target.value)}
      {...rest}
    />
  );
}

/** One of a few. */
export function Choice<T extends string>({
  label,
  of,
  className,
  children,
  onChange,
  ...rest
}: Plain<'select'> & {
  /** where no label element names it */
  label?: string;
  /** what there is to choose, with its words; or options as children */
  of?: readonly (readonly [T, string])[];
  value: T;
  onChange: (to: T) => void;
}) {
  return (
    <Input
      component="select"
      unstyled
      aria-label={label}
      error={useInvalid()}
      classNames={{ wrapper: 'no-box', input: className ?? '' }}
      onChange={(event) => onChange(event.target.value as T)}
      {...rest}
    >
      {of?.map(([code, words]) => (
        <option key={code} value={code}>
          {words}
        </option>
      ))}
      {children}
    </Input>
  );
}
