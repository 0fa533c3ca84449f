import { useForm } from '@mantine/form';
import type { Problem } from './api/http';

/** Of what somebody writes, each field with what it holds; what the server misses in one is said beside it. */
export function useWritten<T extends object>(start: T) {
  const form = useForm<T>({ mode: 'controlled', initialValues: start });
  // the library's own type follows paths into what a field holds; here a field is held whole
  const set = form.setFieldValue as (name: string, to: unknown) => void;
  return {
    values: form.values,
    touched: form.isDirty(),
    /** what a control shows of a field, and what it tells of it */
    of: <K extends keyof T & string>(name: K) => ({
      value: form.values[name],
      onChange: (to: T[K]) => {
        set(name, to);
      },
    }),
    /** what is wrong with a field, in words */
    wrong: (name: keyof T & string) => form.errors[name],
    /** the server did not take it */
    refused: (problem: Problem) => {
      form.setErrors(problem.fields);
    },
  };
}
