import { useForm } from '@mantine/form';
import { useMemo, useState } from 'react';
import type { Problem } from './api/http';

/** Of what somebody writes, each field with what it holds; what the server misses in one is said beside it. */
export function useWritten<T extends object>(start: T) {
  const [initial] = useState(start);
  const { values, errors, setFieldValue, setErrors, isDirty } = useForm<T>({
    mode: 'controlled',
    initialValues: initial,
  });
  return useMemo(
    () => ({
      values,
      touched: isDirty(),
      /** what a control shows of a field, and what it tells of it */
      of: <K extends keyof T & string>(name: K) => ({
        value: values[name],
        onChange: (to: T[K]) => {
          setFieldValue(name, to as never);
        },
      }),
      /** what is wrong with a field, in words */
      wrong: (name: keyof T & string) => errors[name],
      /** the server did not take it */
      refused: (problem: Problem) => {
        setErrors(problem.fields);
      },
    }),
    [values, errors, setFieldValue, setErrors, isDirty],
  );
}
