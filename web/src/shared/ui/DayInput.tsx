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
