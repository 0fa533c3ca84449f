import { DateInput } from '@mantine/dates';
import type { CSSProperties } from 'react';
import { parseDay } from '../days';

/** A day, typed or chosen from a calendar, shown as everywhere else: 2 Mar 2026. Values are ISO 8601, or empty. */
export function DayInput({
  id,
  label,
  value,
  max,
  optional,
  className,
  style,
  onChange,
}: {
  id?: string;
  /** where no label element names it */
  label?: string;
  value: string;
  /** the last day that can be chosen */
  max?: string;
  /** it may be emptied */
  optional?: boolean;
  className?: string;
  style?: CSSProperties;
  onChange: (day: string) => void;
}) {
  return (
    <DateInput
      id={id}
      aria-label={label}
      variant="unstyled"
      valueFormat="D MMM YYYY"
      placeholder="day month year"
      dateParser={parseDay}
      value={value === '' ? null : value}
      maxDate={max}
      allowDeselect={optional}
      firstDayOfWeek={1}
      classNames={{ input: className ?? '' }}
      style={style}
      onChange={(day) => {
        if (day !== null || optional) onChange(day ?? '');
      }}
    />
  );
}

/** The days from which and to which a report looks, beside one another in a bar of filters. */
export function DayRange({
  from,
  to,
  onChange,
}: {
  from: string;
  to: string;
  onChange: (key: 'from' | 'to', day: string) => void;
}) {
  const day = (key: 'from' | 'to', label: string, value: string) => (
    <DayInput
      label={label}
      className="cell-input"
      style={{ width: 110, display: 'inline-block' }}
      value={value}
      onChange={(chosen) => onChange(key, chosen)}
    />
  );
  return (
    <>
      from {day('from', 'From', from)} to {day('to', 'To', to)}
    </>
  );
}
